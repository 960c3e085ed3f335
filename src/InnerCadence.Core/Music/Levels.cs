
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
