using System.Text.RegularExpressions;
using Ganss.Xss;
using InnerCadence.Core.Telling;
using Markdig;
using Markdig.Helpers;
using Markdig.Parsers;
using Markdig.Syntax.Inlines;

namespace InnerCadence.Web.Telling;

/// <summary>Turns the Markdown of an article into markup that can do no harm, with a mark where each reference stands.</summary>
public static partial class ArticleMarkup
{
    // Private-use characters that no one types, and that the sanitiser leaves alone.
    private const char Open = '\uE000', Close = '\uE001';

    private static readonly MarkdownPipeline Pipeline = new MarkdownPipelineBuilder().DisableHtml().UsePipeTables().UseFootnotes()
        .UseEmphasisExtras().Use<References>().Build();

    /// <summary>The markup, and its references in the order in which they stand; the n-th is put in by <paramref name="fill"/>.</summary>
    /// <param name="fill">Trusted markup for a reference, and whether it is a figure that stands by itself.</param>
    public static string Render(string markdown, Func<Reference, (string Html, bool IsFigure)> fill)
    {
        var clean = Sanitizer().Sanitize(HtmlOf(Unmarked().Replace(markdown, "")));
        string Put(Match match, bool alone)
        {
            var (html, isFigure) = fill(Reference.Parse(System.Net.WebUtility.HtmlDecode(match.Groups[1].Value))!);
            return isFigure || !alone ? html : $"<p>{html}</p>";
        }
        // A reference alone in its paragraph may be a figure, which no paragraph can hold.
        return Mark().Replace(Alone().Replace(clean, m => Put(m, true)), m => Put(m, false));
    }

    /// <summary>What is nested deeper than any page is shown as it was typed, so that it can be seen and mended.</summary>
    private static string HtmlOf(string markdown)
    {
        try
        {
            return Markdown.ToHtml(markdown, Pipeline);
        }
        catch (ArgumentException)
        {
            return $"<p>This text is nested too deep to be set; here it is as it was "
                + $"typed.</p><pre>{System.Net.WebUtility.HtmlEncode(markdown)}</pre>";
        }
    }

    /// <summary>The markup of a frozen edition as it may be shown: an archive can bring one from anywhere. Its pictures stay, whatever else
    /// could do harm goes.</summary>
    public static string Frozen(string html)
    {
        // A sanitiser walks its tree by recursion: what is deeper than any page of ours is not built.
        if (DepthOf(html) > Deepest) return $"<p>This edition is nested too deep to be shown; here it is as it "
            + $"came.</p><pre>{System.Net.WebUtility.HtmlEncode(html)}</pre>";
        var sanitizer = Sanitizer();
        foreach (var tag in (string[])["svg", "g", "line", "circle", "rect", "path", "polyline", "text", "title", "figure",
            "figcaption"]) sanitizer.AllowedTags.Add(tag);
        foreach (var attribute in (string[])["viewBox", "viewbox", "role", "aria-label", "cx", "cy", "r", "x", "y", "x1", "y1", "x2", "y2",
            "d", "points", "transform", "data-tick", "data-voice", "data-voices", "data-bars", "data-text",
                "data-as"]) sanitizer.AllowedAttributes.Add(attribute);
        return sanitizer.Sanitize(html);
    }

    /// <summary>How many elements at most are open at once, wherever their ends are forgotten.</summary>
    private static int DepthOf(string html)
    {
        var (open, deepest) = (0, 0);
        foreach (var tag in Tags().EnumerateMatches(html))
        {
            if (html[tag.Index + 1] == '/') open = Math.Max(0, open - 1);
            else if (!Empty().IsMatch(html.AsSpan(tag.Index, Math.Min(tag.Length + 1, html.Length - tag.Index)))) deepest =
                Math.Max(deepest, ++open);
        }
        return deepest;
    }

    /// <summary>Every reference in a text, each once.</summary>
    public static IReadOnlyList<Reference> ReferencesOf(string markdown)
    {
        var found = new List<Reference>();
        Render(markdown, reference =>
        {
            found.Add(reference);
            return ("", false);
        });
        return [.. found.Distinct()];
    }

    private const int Deepest = 256;

    private static HtmlSanitizer Sanitizer()
    {
        var sanitizer = new HtmlSanitizer();
        foreach (var tag in (string[])["img", "form", "input", "button", "textarea", "select", "style"]) sanitizer.AllowedTags.Remove(tag);
        sanitizer.AllowedAttributes.Remove("style");
        sanitizer.AllowedAttributes.Add("class");
        sanitizer.AllowedAttributes.Add("id");
        sanitizer.AllowedSchemes.Clear();
        sanitizer.AllowedSchemes.UnionWith(["http", "https"]);
        return sanitizer;
    }

    [GeneratedRegex("</?[a-zA-Z][^\\s/>]*")]
    private static partial Regex Tags();
    [GeneratedRegex("^<(br|hr|img|wbr|line|circle|rect|path|polyline)\\b", RegexOptions.IgnoreCase)]
    private static partial Regex Empty();
    [GeneratedRegex("[\uE000\uE001]")]
    private static partial Regex Unmarked();
    [GeneratedRegex("\uE000([^\uE000\uE001]*)\uE001")]
    private static partial Regex Mark();
    [GeneratedRegex("<p>\uE000([^\uE000\uE001]*)\uE001</p>")]
    private static partial Regex Alone();

    /// <summary>[[kind:argument]] as an inline of its own; anything else in double brackets stays text.</summary>
    private sealed class References : IMarkdownExtension
    {
        public void Setup(MarkdownPipelineBuilder pipeline) => pipeline.InlineParsers.Insert(0, new Parser());

        public void Setup(MarkdownPipeline pipeline, Markdig.Renderers.IMarkdownRenderer renderer)
        {
        }

        private sealed class Parser : InlineParser
        {
            public Parser() => OpeningCharacters = ['['];

            public override bool Match(InlineProcessor processor, ref StringSlice slice)
            {
                if (slice.PeekChar() != '[') return false;
                var end = slice.Text.IndexOf("]]", slice.Start, slice.End - slice.Start + 1, StringComparison.Ordinal);
                if (end < 0 || Reference.Parse(slice.Text[(slice.Start + 2)..end]) is not { } reference) return false;
                processor.Inline = new LiteralInline($"{Open}{reference.Code}{Close}");
                slice.Start = end + 2;
                return true;
            }
        }
    }
}
