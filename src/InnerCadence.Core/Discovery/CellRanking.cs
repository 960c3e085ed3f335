using InnerCadence.Core.Evidence;
using InnerCadence.Core.Ideas;

namespace InnerCadence.Core.Discovery;

/// <summary>A cell beside what chance would make of the same beats.</summary>
/// <param name="Expected">In how many titles it comes with the beats of each bar shuffled, on average.</param>
/// <param name="Folded">Further cells that mostly stand where it does: longer ones that it is part of, near copies of one groove.</param>
public sealed record RankedCell(Cell Cell, double Expected, int Folded)
{
    /// <summary>How much more often than by chance, over titles: the Poisson deviance, negative where it is rarer.</summary>
    public double Lift => LiftOf(Cell.Recordings, Expected);

    internal static double LiftOf(int titles, double expected)
    {
        // A cell that no shuffle shows is not infinitely rare: half a shuffle is.
        var chance = Math.Max(expected, 0.5 / CellRanking.Shuffles);
        var deviance = titles * Math.Log(titles / chance) - (titles - chance);
        return titles >= chance ? deviance : -deviance;
    }
}

/// <summary>Puts recurring cells in order of how little chance explains them, and shows those that mostly stand at the same places once
/// (evidence.md, "Discovery").</summary>
public static class CellRanking
{
    public const int Shuffles = 20;

    /// <summary>So much of a cell's places within those of a higher one make it a part or a padding of that.</summary>
    private const double Mostly = 0.6;

    /// <summary>A shorter cell that stands at so many of the places carries them.</summary>
    private const double Carries = 0.8;

    /// <param name="sources">As they were given to <see cref="Cells.Find"/>.</param>
    /// <param name="most">So many rows at most.</param>
    public static IReadOnlyList<RankedCell> Of(IReadOnlyList<Source> sources, CellFacets facets, IReadOnlyList<Cell> cells, int most,
        CancellationToken stop = default)
    {
        var expected = ByChance(sources, facets, cells, stop);
        var ranked = cells.Select((cell, i) => (Cell: cell, Expected: expected[i], Lift: RankedCell.LiftOf(cell.Recordings, expected[i])))
            .OrderByDescending(c => Math.Round(c.Lift, 6)).ThenByDescending(c => Math.Round(c.Cell.Interest, 9)).ToList();
        var groups = new List<Group>();
        foreach (var (cell, chance, _) in ranked)
        {
            stop.ThrowIfCancellationRequested();
            if (groups.FirstOrDefault(g => g.Holds(cell)) is { } group) group.Add(cell, chance);
            // Rows beyond the last that is shown need no further ones, but those shown still take in what belongs to them.
            else if (groups.Count < most) groups.Add(new(cell, chance));
        }
        return [.. groups.Select(g => g.Told)];
    }

    /// <summary>In how many titles each cell comes with the beats of each bar in a random order, on average over the shuffles.</summary>
    private static double[] ByChance(IReadOnlyList<Source> sources, CellFacets facets, IReadOnlyList<Cell> cells, CancellationToken stop)
    {
        var names = new Moments.Names();
        var played = Moments.Of(sources, facets, names);
        var at = new Dictionary<(int, int), int>();
        for (var i = 0; i < played.Count; i++)
            if (played.CanStart[i]) at[(played.SourceOf[i], played.At[i].Value)] = i;
        var (whole, beginnings) = (new Dictionary<ulong, int>(), new HashSet<ulong>());
        for (var c = 0; c < cells.Count; c++)
        {
            var first = cells[c].Occurrences[0];
            var key = 0UL;
            for (var k = 0; k < cells[c].Moments; k++) beginnings.Add(key = Next(key, played, at[(first.Source, first.Start.Value)], k));
            whole[key] = c;
        }
        var titles = new double[cells.Count];
        for (var shuffle = 0; shuffle < Shuffles; shuffle++)
        {
            stop.ThrowIfCancellationRequested();
            var n = shuffle;
            var shuffled = Moments.Of([.. sources.Select((s, i) =>
                s with { Passage = Chance.Shuffled(s.Passage, new Random(Chance.Seed(Resampling.Seed, n, i))) })], facets, names);
            var last = new long[cells.Count];
            Array.Fill(last, long.MinValue);
            for (var i = 0; i < shuffled.Count; i++)
            {
                if (!shuffled.CanStart[i]) continue;
                var key = 0UL;
                for (var k = 0; k < Cells.Most && i + k < shuffled.Count && shuffled.SourceOf[i + k] == shuffled.SourceOf[i]; k++)
                {
                    if (!beginnings.Contains(key = Next(key, shuffled, i, k))) break;
                    if (!whole.TryGetValue(key, out var cell)) continue;
                    // Sources come title by title.
                    var title = shuffled.Sources[shuffled.SourceOf[i]].Recording;
                    if (last[cell] == title) continue;
                    last[cell] = title;
                    titles[cell]++;
                }
            }
        }
        return [.. titles.Select(t => t / Shuffles)];
    }

    /// <summary>The key of a cell that begins at a moment, one moment longer.</summary>
    private static ulong Next(ulong key, Moments moments, int first, int k)
    {
        var token = k == 0 ? moments.Contents[first] : k == 1 ? moments.Seconds[first + 1] : moments.Tokens[first + k];
        return unchecked((key ^ ((ulong)(uint)token + 0x9E3779B97F4A7C15UL + ((ulong)k << 56))) * 0xD6E8FEB86659FD93UL) is var mixed
            ? mixed ^ (mixed >> 32) : 0;
    }

    /// <summary>Cells that mostly stand where the first of them does.</summary>
    private sealed class Group
    {
        private readonly Dictionary<int, List<(int From, int To)>> places = [];
        private readonly Cell lead;
        private readonly double lift;
        private (Cell Cell, double Expected) told;
        private int folded;

        public Group(Cell lead, double expected)
        {
            (this.lead, told, lift) = (lead, (lead, expected), RankedCell.LiftOf(lead.Recordings, expected));
            foreach (var o in lead.Occurrences)
            {
                if (!places.TryGetValue(o.Source, out var at)) places[o.Source] = at = [];
                at.Add((o.Start.Value, o.End.Value));
            }
        }

        public RankedCell Told => new(told.Cell, told.Expected, folded);

        public bool Holds(Cell cell) => cell.Occurrences.Count(IsIn) >= Mostly * cell.Occurrences.Count;

        public void Add(Cell cell, double expected)
        {
            folded++;
            var carries = cell.Recordings >= Carries * lead.Recordings && cell.Occurrences.Count(IsIn) >= Carries * lead.Occurrences.Count;
            // A piece of it that every shuffle shows as well is no cell of its own.
            if (cell.Moments < told.Cell.Moments && carries && RankedCell.LiftOf(cell.Recordings, expected) >= Carries * lift) told =
                (cell, expected);
        }

        private bool IsIn(Occurrence o) => places.TryGetValue(o.Source, out var at)
            && at.Any(p => p.From <= o.End.Value && p.To >= o.Start.Value);
    }
}
