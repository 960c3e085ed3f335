namespace InnerCadence.Web.Drawing;

/// <summary>A picture as a file of its own: with the looks that the page's style sheet gives it, on paper.</summary>
public static class StandaloneSvg
{
    private const string Looks =
        """
        svg{background:#fff;font-family:monospace}text{fill:#1b2330;font-size:12px}
        .voice,.hands-name{font-family:sans-serif;font-size:13px;fill:#565f6b;text-anchor:end}
        .count,.hand{text-anchor:middle}.count{fill:#77746b}.count.sounds{fill:#1b2330}.count.beat.sounds{font-weight:700}
        .bar-number{font-size:10px;fill:#565f6b}.strand,.beat-line{stroke:#dcd9d0}.bar-line{stroke:#565f6b;stroke-width:1.5}
        .bead,.cap,.satellite,.fringe,.tail,.tick{fill:#1b2330;stroke:#1b2330}.bead,.cap{stroke-width:0}
        .bead.ghost,.bead.unsure{fill:#fff;stroke-width:1.6}.bead.unsure{stroke-dasharray:2.6 2}.optional{opacity:.45}
        .tail{stroke-width:3;fill:none}.tail.loose{stroke-width:1.2}.fringe,.tick{stroke-width:1.3;fill:none}
        .unheard{fill:#dcd9d0;opacity:.6}.cell{fill:none}.bracket{fill:none;stroke:#0b6370;stroke-width:2}
        .bracket-name{fill:#0b6370;font-weight:700}
        """;

    public static string Of(Shape picture)
    {
        using var text = new StringWriter();
        picture.AsMarkup().WriteTo(text, System.Text.Encodings.Web.HtmlEncoder.Default);
        var markup = text.ToString();
        var head = markup.IndexOf('>') + 1;
        return $"{markup[..head]}<style>{Looks}</style>{markup[head..]}";
    }
}
