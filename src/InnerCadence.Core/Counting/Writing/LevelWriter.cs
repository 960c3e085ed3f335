using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting.Writing;

/// <summary>Writes and says how loud the kit is: a line for all, and one for each group of voices.</summary>
internal static class LevelWriter
{
    /// <summary>As count lines, LV: 3 p &lt; 4&amp; f.</summary>
    public static IEnumerable<string> Lines(Passage passage, CountSchool school = CountSchool.Standard) =>
        passage.Levels.Lines.Select(line =>
    {
        var bars = line.ToLookup(m => passage.Meters.Locate(m.At).Bar);
        var head = line[0].Voices.IsEmpty ? "LV" : $"LV {string.Join(' ', line[0].Voices)}";
        var last = bars.Max(g => g.Key);
        var written = Enumerable.Range(0, last + 1).Select(bar => bars[bar].Any()
            ? string.Join(' ', bars[bar].Select(m => Written(passage, m, school)))
            : "-");
        return $"{head}: {string.Join(" | ", written)}";
    });

    private static string Written(Passage passage, LevelMark mark, CountSchool school)
    {
        var (bar, inBar) = passage.Meters.Locate(mark.At);
        // A hairpin that fades is known by the level where it arrives.
        var sign = mark.Hairpin ? passage.Levels.Lines.Single(l => l.Contains(mark)) is var line
            && line[line.Span.IndexOf(mark) + 1].Level > mark.Level ? " <" : " >" : "";
        return $"{CountNames.Place(inBar, passage.Meters.MeterOf(bar), school)} {mark.Level.Written()}{sign}";
    }

    /// <summary>A sentence a line.</summary>
    public static IEnumerable<string> Sentences(Passage passage, CountSchool school) => passage.Levels.Lines.Select(line =>
    {
        var parts = line.Select((mark, i) => (mark, i)).Where(p => p.i == 0 || !line[p.i - 1].Hairpin || p.mark.Hairpin)
            .Select(p => p.mark.Hairpin
            ? $"{(line[p.i + 1].Level > p.mark.Level ? "growing" : "fading")} from {p.mark.Level.Spoken()} to "
                + $"{line[p.i + 1].Level.Spoken()}, from {Said(p.mark.At)} to {Said(line[p.i + 1].At)}"
            : $"{p.mark.Level.Spoken()} from {Said(p.mark.At)}");
        var who = line[0].Voices.IsEmpty ? "The kit" : string.Join(" and ", line[0].Voices.Select(v => v.Name));
        return $"{who.Capital()} {string.Join("; ", parts)}.";

        string Said(Tick at) => Place(passage, at, school);
    });

    private static string Place(Passage passage, Tick at, CountSchool school)
    {
        var (bar, inBar) = passage.Meters.Locate(at);
        var place = CountNames.Spoken(inBar, passage.Meters.MeterOf(bar), school);
        return bar == 0 ? place : bar >= passage.Bars ? "the 1 after the end" : $"{place} of bar {bar + 1}";
    }
}
