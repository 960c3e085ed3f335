using InnerCadence.Core.Music;

namespace InnerCadence.Core.Timing;

/// <summary>Turns onsets that were tapped or played into places of the beat (time.md, "Quantising").</summary>
/// <remarks>
/// For each beat the division of 2, 3, 4, 6 or 8 with the least description cost: squared error over the timing spread, plus half the
/// division, plus 1 where the division changes from the beat before. The cheapest path over all beats is taken, not beat by beat.
/// </remarks>
public static class Quantise
{
    private static readonly int[] Divisions = [2, 3, 4, 6, 8];
    private const double PerDivision = 0.5, Change = 1;

    /// <summary>A choice that another division nearly equals is weak.</summary>
    private const double Weak = 1;

    /// <summary>How far a person's taps stray, in seconds, where they do not say themselves.</summary>
    public const double UsualSpread = 0.02;

    /// <param name="At">From the first beat, in ticks.</param>
    /// <param name="Onset">Which of the onsets, from 0.</param>
    /// <param name="Weak">Another division would have done nearly as well and put it elsewhere.</param>
    public readonly record struct PlacedOnset(Tick At, int Onset, bool Weak);

    /// <summary>Each onset's place. Two onsets that fall on one place are one: the earlier stays.</summary>
    /// <inheritdoc cref="PlaceAll"/>
    public static IReadOnlyList<PlacedOnset> Place(IReadOnlyList<double> onsets, Tick beat, Seconds secondsPerBeat,
        double spread = UsualSpread) =>
        [.. PlaceAll(onsets, beat, secondsPerBeat, spread).DistinctBy(p => p.At).OrderBy(p => p.At)];

    /// <summary>Each onset's place, in the order of the onsets; several drums may be struck at one place.</summary>
    /// <param name="onsets">Seconds from the first beat, in order; more than half a beat before it are left out.</param>
    /// <param name="beat">Length of the beat in music.</param>
    /// <param name="secondsPerBeat">Above zero.</param>
    /// <param name="spread">Standard deviation of the taps in seconds, above zero.</param>
    public static IReadOnlyList<PlacedOnset> PlaceAll(IReadOnlyList<double> onsets, Tick beat, Seconds secondsPerBeat,
        double spread = UsualSpread)
    {
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(secondsPerBeat.Value);
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(spread);
        // An onset a little before a beat belongs to it: beats are cut a sixteenth of their length early.
        var byBeat = onsets.Select((at, i) => (At: at / secondsPerBeat, Onset: i)).Where(o => o.At > -0.5)
            .GroupBy(o => (int)Math.Max(0, Math.Floor(o.At + 1.0 / 16))).OrderBy(g => g.Key)
            .Select(g => (Beat: g.Key, Onsets: g.ToList())).ToList();
        var costs = byBeat.Select(b => Divisions.Select(d => Error(b.Onsets.Select(o => o.At - b.Beat), d, secondsPerBeat / spread)
            + PerDivision * d).ToArray()).ToList();
        var chosen = Cheapest(costs);
        var placed = new List<PlacedOnset>();
        for (var i = 0; i < byBeat.Count; i++)
        {
            var rival = Enumerable.Range(0, Divisions.Length).Where(d => d != chosen[i] && costs[i][d] - costs[i][chosen[i]] < Weak)
                .ToList();
            foreach (var (at, onset) in byBeat[i].Onsets)
            {
                var inBeat = at - byBeat[i].Beat;
                var tick = TickOf(byBeat[i].Beat, inBeat, Divisions[chosen[i]], beat);
                placed.Add(new(tick, onset, rival.Any(d => TickOf(byBeat[i].Beat, inBeat, Divisions[d], beat) != tick)));
            }
        }
        return placed;
    }

    private static Tick TickOf(int beats, double inBeat, int division, Tick beat) =>
        new(beats * beat.Value + (int)Math.Max(0, Math.Floor(inBeat * division + 0.5)) * (beat.Value / division));

    private static double Error(IEnumerable<double> inBeat, int division, double perSpread) =>
        inBeat.Sum(at => Math.Pow((at - Math.Floor(at * division + 0.5) / division) * perSpread, 2));

    /// <summary>Index of the division of each beat on the cheapest path; of equal ones the smaller division.</summary>
    private static int[] Cheapest(IReadOnlyList<double[]> costs)
    {
        if (costs.Count == 0) return [];
        var total = new double[costs.Count][];
        var from = new int[costs.Count][];
        for (var i = 0; i < costs.Count; i++)
        {
            (total[i], from[i]) = (new double[Divisions.Length], new int[Divisions.Length]);
            for (var d = 0; d < Divisions.Length; d++)
            {
                from[i][d] = i == 0 ? d : Enumerable.Range(0, Divisions.Length)
                    .MinBy(p => total[i - 1][p] + (p == d ? 0 : Change) + (p == d ? -1e-9 : 0));
                total[i][d] = costs[i][d] + (i == 0 ? 0 : total[i - 1][from[i][d]] + (from[i][d] == d ? 0 : Change));
            }
        }
        var path = new int[costs.Count];
        path[^1] = Enumerable.Range(0, Divisions.Length).MinBy(d => total[^1][d]);
        for (var i = costs.Count - 1; i > 0; i--) path[i - 1] = from[i][path[i]];
        return path;
    }
}
