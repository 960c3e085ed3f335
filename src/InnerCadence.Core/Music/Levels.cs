
namespace InnerCadence.Core.Music;

/// <summary>A level from a place on.</summary>
/// <param name="Voices">In canonical order; empty for all.</param>
/// <param name="Hairpin">From here it goes gradually to the next of its line.</param>
public sealed record LevelMark(Tick At, ValueList<Voice> Voices, Level Level, bool Hairpin);

/// <summary>How loud the kit is from place to place (count-lines.md, "Levels"). Two are the same when their marks are.</summary>
public sealed class Levels : IEquatable<Levels>
{
    private readonly ValueList<LevelMark>[] lines;

    public Levels(IEnumerable<LevelMark> marks)
    {
        Marks = [.. marks.OrderBy(m => m.At).ThenBy(m => m.Voices.Count == 0 ? -1 : m.Voices[0].Order)];
        lines = [.. Marks.GroupBy(m => string.Join(' ', m.Voices)).Select(g => g.ToValueList())];
    }

    public static Levels None { get; } = new([]);

    /// <summary>By tick, the line for all first.</summary>
    public ValueList<LevelMark> Marks { get; }

    /// <summary>The marks of each line: those that hold for the same voices.</summary>
    public IReadOnlyList<ValueList<LevelMark>> Lines => lines;

    /// <summary>Steps from mf at a place: a voice's own line from its first level on, else the line for all, else none. Inside a hairpin in
    /// proportion to ticks.</summary>
    public double At(Tick at, Voice voice)
    {
        if (lines.Length == 0) return 0;
        var own = lines.FirstOrDefault(line => line[0].Voices.Contains(voice) && line[0].At <= at, []);
        return In(own.IsEmpty ? lines.FirstOrDefault(line => line[0].Voices.IsEmpty, []) : own, at);
    }

    /// <summary>What holds in a span, told from its start.</summary>
    public Levels Cut(Tick from, Tick to) => lines.Length == 0 ? this : new(lines.SelectMany(line => Cut(line, from, to)));

    /// <summary>So many times as slow.</summary>
    public Levels Stretched(int by) => lines.Length == 0 ? this : new(Marks.Select(m => m with { At = m.At * by }));

    /// <summary>Spans one after the other, each as loud as it is by itself. What grows up to the end of one ends a 32nd before it, since
    /// the next begins there.</summary>
    /// <param name="spans">What holds in each, told from its start, and how long it is.</param>
    public static Levels Joined(IReadOnlyList<(Levels Levels, Tick Length)> spans)
    {
        var all = new List<LevelMark>();
        foreach (var voices in spans.SelectMany(s => s.Levels.lines).Select(line => line[0].Voices).Distinct().ToList())
        {
            var (start, made) = (Tick.Zero, new List<LevelMark>());
            foreach (var (levels, length) in spans)
            {
                var line = levels.lines.FirstOrDefault(l => l[0].Voices.Equals(voices), []);
                var own = line.IsEmpty ? length : line[0].At;
                if (made.Count > 0 && own > Tick.Zero) made.AddRange(levels.BeforeOwn(voices, own)
                    .Select(m => m with { At = m.At + start }));
                made.AddRange(Within(line, length).Select(m => m with { At = m.At + start }));
                start += length;
            }
            all.AddRange(Told(made));
        }
        return all.Count == 0 ? None : new(all);
    }

    /// <summary>What holds for voices until their own line begins: the line for all, and at first mf.</summary>
    private IEnumerable<LevelMark> BeforeOwn(ValueList<Voice> voices, Tick until)
    {
        var all = voices.IsEmpty ? [] : Within(lines.FirstOrDefault(line => line[0].Voices.IsEmpty, []), until).ToList();
        if (all.Count == 0 || all[0].At > Tick.Zero) yield return new(Tick.Zero, voices, default, false);
        foreach (var mark in all) yield return mark with { Voices = voices };
    }

    /// <summary>Marks before the end; a hairpin that reaches it ends just before.</summary>
    private static IEnumerable<LevelMark> Within(ValueList<LevelMark> line, Tick length)
    {
        var before = line.Where(m => m.At < length).ToList();
        if (before is not [.., { Hairpin: true } last]) return before;
        var end = length - new Tick(Tick.PerQuarter / 8);
        return end > last.At ? before.Append(last with { At = end, Level = (Level)(int)Math.Round(In(line, end)), Hairpin = false })
            : before[..^1].Append(last with { Hairpin = false });
    }

    /// <summary>Without what says again what holds already; a hairpin has two ends that differ.</summary>
    private static IEnumerable<LevelMark> Told(List<LevelMark> marks)
    {
        for (var i = 0; i + 1 < marks.Count; i++)
            if (marks[i].Hairpin && marks[i].Level == marks[i + 1].Level) marks[i] = marks[i] with { Hairpin = false };
        return marks.Where((m, i) => i == 0 || m.Hairpin || marks[i - 1].Hairpin || m.Level != marks[i - 1].Level);
    }

    private static double In(ValueList<LevelMark> line, Tick at)
    {
        var last = line.IsEmpty ? -1 : line.Count(m => m.At <= at) - 1;
        if (last < 0) return 0;
        if (!line[last].Hairpin || last + 1 == line.Count) return (int)line[last].Level;
        var (from, to) = (line[last], line[last + 1]);
        return (int)from.Level + ((int)to.Level - (int)from.Level) * (double)(at - from.At).Value / (to.At - from.At).Value;
    }

    private static List<LevelMark> Cut(ValueList<LevelMark> line, Tick from, Tick to)
    {
        LevelMark Now(Tick at) => line[0] with { At = at - from, Level = (Level)(int)Math.Round(In(line, at)), Hairpin = false };
        var inside = line.Where(m => m.At >= from && m.At < to).Select(m => m with { At = m.At - from }).ToList();
        var before = line.LastOrDefault(m => m.At < from);
        if (before is not null && (inside.Count == 0 || inside[0].At > Tick.Zero))
            inside.Insert(0, Now(from) with { Hairpin = before.Hairpin });
        if (inside is [.., { Hairpin: true }]) inside.Add(Now(to));
        // A hairpin needs two ends that differ.
        for (var i = 0; i < inside.Count; i++)
            if (inside[i].Hairpin && inside[i].Level == inside[i + 1].Level) inside[i] = inside[i] with { Hairpin = false };
        return inside;
    }

    public bool Equals(Levels? other) => other is not null && Marks.Equals(other.Marks);
    public override bool Equals(object? obj) => Equals(obj as Levels);
    public override int GetHashCode() => Marks.GetHashCode();
}
