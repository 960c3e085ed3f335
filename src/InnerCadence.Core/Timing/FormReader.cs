using System.Globalization;
using System.Text.RegularExpressions;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Timing;

/// <summary>Reads the one line in which a form is said.</summary>
internal sealed partial class FormReader(MeterCycle usual)
{
    private readonly Problems problems = new();
    private readonly List<(FormSection Section, bool Numbered)> read = [];
    private int bar = 1;

    public Form Read(string text)
    {
        if (text.Length > Form.MostLength)
        {
            problems.Error(new(1, 1, 1), $"A form is at most {Form.MostLength} characters long; the rest is not read.");
            text = text[..Form.MostLength];
        }
        var line = 1;
        foreach (var row in text.Split('\n'))
        {
            foreach (var item in Items().Matches(row).Where(m => m.Value.Trim().Length > 0))
                ReadItem(item.Value.Trim().TrimEnd('.'), new(line, item.Index + item.Length - item.Value.TrimStart().Length + 1,
                    item.Value.Trim().Length));
            line++;
        }
        return new(Named(), problems.InOrder);
    }

    private void ReadItem(string item, TextSpan at)
    {
        if (Item().Match(item) is not { Success: true } match)
        {
            problems.Error(at, $"‘{item}’ is no section: write a name and its bars, such as verse 16, bridge 8 of 7/8, stop of 3 beats, "
                + $"or pause of 2.5 s.");
            return;
        }
        var (name, number) = (match.Groups["name"].Value.TrimEnd(' ', ':').ToLowerInvariant(), match.Groups["number"]);
        var times = match.Groups["times"].Success ? int.Parse(match.Groups["times"].Value, CultureInfo.InvariantCulture) : 1;
        var clock = match.Groups["clock"].Success ? ClockTime.Parse(match.Groups["clock"].Value) : null;
        if (match.Groups["clock"].Success && clock is null)
        {
            problems.Error(at, $"‘{match.Groups["clock"].Value}’ is no clock time: write @ and minutes and seconds, such as @ 1:32.4.");
            return;
        }
        var section = new FormSection(name, number.Success ? $"{name} {number.Value}" : name, 0, 0) { At = clock };
        if (match.Groups["seconds"].Success)
            section = section with { PauseSeconds = new(double.Parse(match.Groups["seconds"].Value, CultureInfo.InvariantCulture)) };
        else if (match.Groups["beats"].Success)
        {
            if (Meter.Parse($"{match.Groups["beats"].Value}/{usual.MeterOf(0).Lower}") is not { } odd)
            {
                problems.Error(at, "An odd bar has 1 to 32 beats; write longer ones as bars.");
                return;
            }
            section = section with { Bars = 1, Meters = new([odd]) };
        }
        else if (!ReadBars(match, at, ref section)) return;
        for (var i = 0; i < times; i++) Add(section with { At = i == 0 ? clock : null }, number.Success, at);
    }

    private bool ReadBars(Match match, TextSpan at, ref FormSection section)
    {
        section = section with { Bars = int.Parse(match.Groups["bars"].Value, CultureInfo.InvariantCulture) };
        if (!match.Groups["meter"].Success) return true;
        var meters = match.Groups["meter"].Value.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(Meter.Parse).ToList();
        if (meters.Contains(null))
        {
            problems.Error(at, $"‘{match.Groups["meter"].Value.Trim()}’ is no meter: write for example bridge 8 of 7/8, or of 4/4 3/4 "
                + $"for bars in turn.");
            return false;
        }
        section = section with { Meters = new([.. meters.Select(m => m!)]) };
        return true;
    }

    private void Add(FormSection section, bool numbered, TextSpan at)
    {
        if (section is { Bars: 0, PauseSeconds.Value: 0 }) problems.Error(at, $"‘{section.Name}’ has no bars: write how many.");
        else if (bar + section.Bars - 1 > Form.MostBars) problems.Error(at, $"A form has at most {Form.MostBars} bars.");
        else if (read.Count == Form.MostSections) problems.Error(at, $"A form has at most {Form.MostSections} sections.");
        else
        {
            read.Add((section with { FirstBar = bar }, numbered));
            bar += section.Bars;
        }
    }

    /// <summary>Kinds that come more than once are numbered in order; a number that was written stays.</summary>
    private List<FormSection> Named()
    {
        var plain = read.Where(r => !r.Numbered).GroupBy(r => r.Section.Kind).Where(g => g.Count() > 1).ToDictionary(g => g.Key, _ => 0);
        return [.. read.Select(r => !r.Numbered && plain.ContainsKey(r.Section.Kind)
            ? r.Section with { Name = $"{r.Section.Kind} {++plain[r.Section.Kind]}" } : r.Section)];
    }

    [GeneratedRegex(@"[^,;]+")]
    private static partial Regex Items();

    // verse 16 · verse 2: 16 · bridge 8 of 7/8 · stop of 3 beats · pause of 2.5 s; then @ clock and x times.
    [GeneratedRegex(
        @"^(?<name>\p{L}[\p{L}\p{M}'’.\- ]{0,60}?)(?:\s*(?<number>\d{1,3})(?=\s*(?::|\s\d|\sof\s+[\d.]+\s*(?:beats?|s)\b)))?\s*:?\s*(?:(?<bars>\d{1,6})(?:\s*bars?)?(?:\s+of\s+(?<meter>\d[\d/()+ ]*?))?|of\s+(?<beats>\d{1,2})\s*beats?|of\s+(?<seconds>\d{1,4}(?:\.\d{1,3})?)\s*(?:s|sec|seconds?))(?:\s*@\s*(?<clock>\S+))?(?:\s*x\s*(?<times>\d{1,2}))?$",
        RegexOptions.IgnoreCase)]
    private static partial Regex Item();
}
