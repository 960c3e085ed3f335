using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hands;

/// <summary>One stroke of a rudiment.</summary>
/// <param name="At">In places of its grid.</param>
/// <param name="Side">Nothing for a foot.</param>
public readonly record struct RudimentStroke(int At, Side? Side, bool Accent, Ornaments Ornaments);

/// <summary>A figure of hands, and of hands and feet, that drummers practise under a name: relative rhythm, sticking, accents,
/// ornaments.</summary>
/// <param name="Grid">How many of its places fill a quarter when it is written out.</param>
/// <param name="Length">In places of its grid, to where it begins again.</param>
/// <param name="Turns">Comes back led by the other hand.</param>
public sealed record Rudiment(string Name, string Group, int Grid, int Length, bool Turns, ValueList<RudimentStroke> Strokes)
{
    /// <summary>From its start to where it begins again, both leads of one that turns.</summary>
    public Tick Span => Tick.OfQuarter(Length * (Turns ? 2 : 1), Grid);

    public bool HasFeet => Strokes.Any(s => s.Side is null);

    /// <summary>Led by the other hand; feet stay.</summary>
    public Rudiment Mirrored => this with
    {
        Strokes =
        [.. Strokes.Select(s => s with { Side = s.Side is { } side ? side == Music.Side.Right ? Music.Side.Left : Music.Side.Right
        : null })]
    };

    /// <summary>On the snare, feet on the kick, one round of each lead where it turns.</summary>
    public Passage AsPassage(bool leftLead = false)
    {
        var rounds = Turns ? new[] { leftLead ? Mirrored : this, leftLead ? this : Mirrored } : [leftLead ? Mirrored : this];
        var place = Tick.PerQuarter / Grid;
        var total = rounds.Length * Length * place;
        var bars = Math.Max(1, (total + Meter.CommonTime.Length.Value - 1) / Meter.CommonTime.Length.Value);
        var strokes = rounds.SelectMany((r, i) => r.Strokes.Select(s =>
            new Stroke(new((i * Length + s.At) * place), s.Side is null ? Voice.Kick : Voice.Snare)
            {
                Side = s.Side,
                Dynamic = s.Accent ? Dynamic.Accent : Dynamic.Normal,
                Ornaments = s.Ornaments,
            }));
        return new(MeterCycle.CommonTime, bars, Passage.InOrder(strokes)) { Tempo = Bpm.Of(Grid >= 8 ? 70 : 90) };
    }

    /// <summary>As count lines, which an idea can be made of.</summary>
    public string Text => CountWriter.Write(AsPassage());

    /// <summary>The catalogue, read from its text once.</summary>
    public static IReadOnlyList<Rudiment> All { get; } = Read(RudimentList.Text);

    public static Rudiment? Find(string name) => All.FirstOrDefault(r => string.Equals(r.Name, name, StringComparison.OrdinalIgnoreCase));

    /// <summary>A line each: name; group; grid; strokes, one a place: R L K, &gt; accent, f flam, d drag, - a rest; ; turns where it comes
    /// back led by the other hand.</summary>
    /// <exception cref="FormatException">A line is no rudiment.</exception>
    internal static IReadOnlyList<Rudiment> Read(string text) =>
        [.. text.Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).Select(line =>
    {
        if (line.Split(';', StringSplitOptions.TrimEntries) is not [var name, var group, var grid, var written,
            var turns]) throw new FormatException($"‘{line}’ is no rudiment.");
        var places = written.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        var strokes = places.Select((p, i) => (p, i)).Where(x => x.p != "-").Select(x => new RudimentStroke(
            x.i, x.p[0] switch { 'R' => Music.Side.Right, 'L' => Music.Side.Left, 'K' => null, _ =>
                throw new FormatException($"‘{x.p}’ in ‘{name}’ is no stroke.") },
            x.p.Contains('>'), (x.p.Contains('f') ? Ornaments.Flam : Ornaments.None) | (x.p.Contains('d') ? Ornaments.Drag
                : Ornaments.None)));
        return new Rudiment(name, group, int.Parse(grid, System.Globalization.CultureInfo.InvariantCulture), places.Length,
            turns == "turns", [.. strokes]);
    })];
}
