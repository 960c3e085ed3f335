using System.Text;

namespace InnerCadence.Core.Ideas;

/// <summary>Settings in the words of the design pages, with - for spaces: same-place-in-the-bar, hand-or-foot, near-miss.</summary>
public static class IdeaWords
{
    public static string Word<T>(this T setting) where T : struct, Enum
    {
        var name = setting.ToString();
        var word = new StringBuilder();
        foreach (var c in name)
        {
            if (char.IsUpper(c) && word.Length > 0) word.Append('-');
            word.Append(char.ToLowerInvariant(c));
        }
        return word.ToString();
    }

    /// <summary>Nothing when no setting is called so.</summary>
    public static T? Read<T>(string? word) where T : struct, Enum
    {
        foreach (var value in Enum.GetValues<T>())
            if (value.Word() == word) return value;
        return null;
    }

    /// <summary>The rules in one line, only what is not usual: snare for snare, any tom for tom · anywhere in the bar · ghosts
    /// ignored.</summary>
    public static string Sentence(this Rules rules)
    {
        var parts = new List<string>
        {
            rules.Facets.Voicing switch
            {
                Likeness.VoicingRule.Drum => "same drum",
                Likeness.VoicingRule.Family => "snare for snare, any tom for tom",
                Likeness.VoicingRule.Contour => "same contour over the toms",
                Likeness.VoicingRule.HandOrFoot => "hand or foot",
                _ => "any drum",
            },
            rules.Placement switch
            {
                PlacementRule.SamePlaceInTheBeat => "same place in the beat",
                PlacementRule.SamePlaceInTheBar => "same place in the bar",
                _ => "anywhere in the bar",
            },
        };
        if (rules.Rate == RateRule.Proportional) parts.Add("proportional rate");
        if (rules.Ghosts == GhostRule.Ignore) parts.Add("ghosts ignored");
        foreach (var (name, rule) in ((string, Likeness.FacetRule)[])[("sticking", rules.Facets.Sticking),
            ("dynamics", rules.Facets.Dynamics), ("openness", rules.Facets.Openness), ("ornaments", rules.Facets.Ornaments)])
            if (rule != Likeness.FacetRule.May) parts.Add(rule == Likeness.FacetRule.Must ? $"{name} must agree" : $"{name} not looked at");
        if (rules.Transforms.Count > 0) parts.Add("also " + string.Join(", ", rules.Transforms.Select(t => t.Word())));
        if (rules.Elision > 0) parts.Add($"first {rules.Elision} may be left out");
        if (rules.Ending == EndingRule.CrashToo) parts.Add("may end on a crash");
        if (!rules.Bed.IsEmpty) parts.Add("over a bed of " + string.Join(", ", rules.Bed.Order().Select(v => v.Name)));
        if (rules.Echoes == EchoRule.Count) parts.Add("echoes count");
        if (rules.Levels != LevelRule.Ignore) parts.Add(rules.Levels == LevelRule.Must ? "growth must agree" : "growth may differ");
        if (rules.Swing == SwingRule.AsSounding) parts.Add("swing as sounding");
        return string.Join(" · ", parts);
    }
}
