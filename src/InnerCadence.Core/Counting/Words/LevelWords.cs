using System.Globalization;
using System.Text.RegularExpressions;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting.Words;

/// <summary>Reads how loud the kit is, in words: the kit soft from 3; snare growing from soft to loud, from 1 to 4 of bar 2.</summary>
internal static partial class LevelWords
{
    /// <summary>The line says how loud something is, even where its bars are not there yet.</summary>
    public static bool Speaks(string line, Directives said) =>
        Said(line, said) is var (_, parts) && parts.All(part => Change().IsMatch(part) || Steady().IsMatch(part));

    /// <summary>Whose level the line speaks of, and what it says of it; nothing where it speaks of something else.</summary>
    private static (ValueList<Voice> Voices, string[] Parts)? Said(string line, Directives said) =>
        Subject().Match(line.Trim().TrimEnd('.')) is { Success: true } subject
        && VoicesOf(subject.Groups["who"].Value, said) is { } voices
            ? (voices, subject.Groups["parts"].Value.Split(';', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
            : null;

    /// <summary>The marks of the line; nothing where it says something else.</summary>
    public static IReadOnlyList<LevelMark>? Read(string line, Passage passage, Directives said)
    {
        if (Said(line, said) is not var (voices, parts)) return null;
        var marks = new List<LevelMark>();
        foreach (var part in parts)
        {
            if (Change().Match(part) is { Success: true } change)
            {
                if (LevelOf(change.Groups["first"].Value) is not { } first || LevelOf(change.Groups["last"].Value) is not { } last
                    || PlaceOf(change.Groups["from"].Value, passage, said.School) is not { } from
                        || PlaceOf(change.Groups["to"].Value, passage, said.School) is not { } to
                    || to <= from || first == last || change.Groups["way"].Value.StartsWith("grow",
                        StringComparison.OrdinalIgnoreCase) != last > first)
                    return null;
                // What grows on from where another change ends goes through one mark.
                marks.RemoveAll(m => m.At == from);
                marks.AddRange([new(from, voices, first, true), new(to, voices, last, false)]);
            }
            else if (Steady().Match(part) is { Success: true } steady && LevelOf(steady.Groups["level"].Value) is { } level
                && PlaceOf(steady.Groups["from"].Value, passage, said.School) is { } at) marks.Add(new(at, voices, level, false));
            else return null;
        }
        return marks.Count == 0 || marks.Zip(marks.Skip(1)).Any(p => p.Second.At <= p.First.At) ? null : marks;
    }

    /// <summary>Empty for the whole kit.</summary>
    private static ValueList<Voice>? VoicesOf(string who, Directives said)
    {
        if (who.ToLowerInvariant() is "the kit" or "kit" or "all" or "everything") return [];
        var voices = who.Split(" and ", StringSplitOptions.TrimEntries).Select(said.VoiceCalled).ToList();
        return voices.Exists(v => v is null) ? null : [.. voices.Select(v => v!).Order()];
    }

    private static Level? LevelOf(string words) => Enum.GetValues<Level>().Where(l => l.Spoken() == words.ToLowerInvariant().Trim())
        .Select(l => (Level?)l).FirstOrDefault();

    /// <summary>3, the &amp; of 4, the e of 2 of bar 3; just after one of them is none.</summary>
    private static Tick? PlaceOf(string words, Passage passage, CountSchool school)
    {
        if (words.Trim().ToLowerInvariant() == "the 1 after the end") return passage.Meters.StartOf(passage.Bars);
        if (At().Match(words.Trim()) is not { Success: true } at) return null;
        var bar = at.Groups["bar"].Length > 0 ? int.Parse(at.Groups["bar"].Value, CultureInfo.InvariantCulture) - 1 : 0;
        if (bar < 0 || bar >= CountLines.MostBars) return null;
        var meter = passage.Meters.MeterOf(bar);
        for (var tick = Tick.Zero; tick < meter.Length; tick += new Tick(Tick.PerQuarter / 48))
            if (string.Equals(CountNames.Spoken(tick, meter, school), at.Groups["place"].Value, StringComparison.OrdinalIgnoreCase))
                return passage.Meters.StartOf(bar) + tick;
        return null;
    }

    private const string Levels = "very soft|soft|rather soft|neither soft nor loud|very loud|loud";

    [GeneratedRegex(@"^(?<who>.+?) (?<parts>(?:growing|fading|" + Levels + @")\b.*)$", RegexOptions.IgnoreCase)]
    private static partial Regex Subject();

    [GeneratedRegex(@"^(?<way>growing|fading) from (?<first>" + Levels + ") to (?<last>" + Levels + "),? from (?<from>.+?) to (?<to>.+)$",
        RegexOptions.IgnoreCase)]
    private static partial Regex Change();

    [GeneratedRegex(@"^(?<level>" + Levels + ") from (?<from>.+)$", RegexOptions.IgnoreCase)]
    private static partial Regex Steady();

    [GeneratedRegex(@"^(?<place>.+?)(?: of bar (?<bar>\d{1,3}))?$", RegexOptions.IgnoreCase)]
    private static partial Regex At();
}
