using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Discovery;

/// <summary>What of a moment tells two cells apart.</summary>
/// <param name="Voicing">Drum, family, hand or foot, or any: then rhythm alone.</param>
/// <param name="Proportional">Gaps as ratios of the gap before, so that a cell comes back at another rate.</param>
/// <param name="Families">Voices that are seen; the others are as if they were not played.</param>
public sealed record CellFacets(VoicingRule Voicing, bool Proportional, bool Sticking, bool Accents, IReadOnlySet<Family> Families)
{
    /// <summary>Kick, snare, toms and crashes: the time that is kept on hat and ride would make every cell another one.</summary>
    public static CellFacets Usual { get; } = new(VoicingRule.Drum, false, false, false,
        new HashSet<Family> { Family.Kick, Family.Snare, Family.Tom, Family.Crash });
}

/// <summary>A passage to search, with what its occurrences are told by.</summary>
/// <param name="Recording">By which it counts once: the player's title, so that takes of one piece are one.</param>
public sealed record Source(Passage Passage, long Reading, long Recording);

/// <summary>One place of a cell.</summary>
/// <param name="Source">Which source, from 0.</param>
/// <param name="End">The tick of its last moment; past the passage's length where it runs over the join of a loop.</param>
public readonly record struct Occurrence(int Source, Tick Start, Tick End);

/// <summary>A sequence of moments that comes back.</summary>
/// <param name="Surprise">Mean bits of each token after the one before, under the study's own habits.</param>
public sealed record Cell(int Moments, ValueList<Occurrence> Occurrences, int Recordings, double Surprise)
{
    /// <summary>ideas.md, "Discovery": ln(recordings + 1) x (moments - 1) x surprise.</summary>
    public double Interest => Math.Log(Recordings + 1) * (Moments - 1) * Surprise;
}

/// <summary>Finds cells that nobody named: closed sequences of 3 to 16 moments that occur in several recordings (ideas.md,
/// "Discovery").</summary>
/// <remarks>
/// Cells of each length get numbers from those one shorter and the next token, so that equal cells have equal numbers and nothing is
/// compared twice; a place
/// whose cell is too rare is not carried on. Time and memory grow with the number of moments.
/// </remarks>
public static class Cells
{
    public const int Least = 3, Most = 16;

    /// <param name="recordings">In at least so many different recordings, 1 or more.</param>
    /// <returns>Most interesting first; ties to the longer, then to the earlier.</returns>
    public static IReadOnlyList<Cell> Find(IReadOnlyList<Source> sources, CellFacets facets, int recordings = 2)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(recordings, 1);
        var moments = Moments.Of(sources, facets);
        var names = new int[Most + 2][];
        var counts = new int[Most + 2][];
        var keep = new bool[moments.Count];
        for (var i = 0; i < moments.Count; i++) keep[i] = moments.CanStart[i];
        names[1] = moments.Contents;
        for (var length = 2; length <= Most + 1; length++)
        {
            (names[length], counts[length]) = Lengthen(moments, names[length - 1], length, keep);
            if (length < Least) continue;
            var often = OftenEnough(moments, names[length], counts[length].Length, recordings);
            for (var i = 0; i < moments.Count; i++) keep[i] = keep[i] && names[length][i] >= 0 && often[names[length][i]];
        }
        var habits = new Habits(moments);
        var cells = new List<Cell>();
        for (var length = Least; length <= Most; length++)
            cells.AddRange(ClosedOf(moments, names, counts, length, recordings, habits));
        return [.. cells.OrderByDescending(c => Math.Round(c.Interest, 9)).ThenByDescending(c => c.Moments)
            .ThenBy(c => c.Occurrences[0].Source).ThenBy(c => c.Occurrences[0].Start)];
    }

    /// <summary>Numbers for the cells one moment longer; -1 where there is none or it is not worth having.</summary>
    private static (int[] Names, int[] Counts) Lengthen(Moments moments, int[] shorter, int length, bool[] keep)
    {
        var names = new int[moments.Count];
        var known = new Dictionary<(int, int), int>();
        var counts = new List<int>();
        for (var i = 0; i < names.Length; i++)
        {
            names[i] = -1;
            if (!keep[i] || shorter[i] < 0 || i + length > moments.Count
                || moments.SourceOf[i + length - 1] != moments.SourceOf[i]) continue;
            var token = length == 2 ? moments.Seconds[i + 1] : moments.Tokens[i + length - 1];
            if (!known.TryGetValue((shorter[i], token), out var name))
            {
                known[(shorter[i], token)] = name = counts.Count;
                counts.Add(0);
            }
            counts[name]++;
            names[i] = name;
        }
        return (names, [.. counts]);
    }

    private static bool[] OftenEnough(Moments moments, int[] names, int kinds, int recordings)
    {
        var often = new bool[kinds];
        var (seen, last) = (new int[kinds], new long[kinds]);
        Array.Fill(last, long.MinValue);
        // Sources come recording by recording, so that a new one is seen by comparing with the last.
        for (var i = 0; i < names.Length; i++)
        {
            if (names[i] < 0) continue;
            var recording = moments.Sources[moments.SourceOf[i]].Recording;
            if (last[names[i]] == recording) continue;
            last[names[i]] = recording;
            if (++seen[names[i]] >= recordings) often[names[i]] = true;
        }
        return often;
    }

    private static IEnumerable<Cell> ClosedOf(Moments moments, int[][] names, int[][] counts, int length, int recordings, Habits habits)
    {
        var places = new Dictionary<int, List<int>>();
        for (var i = 0; i < moments.Count; i++)
        {
            if (names[length][i] < 0) continue;
            if (!places.TryGetValue(names[length][i], out var at)) places[names[length][i]] = at = [];
            at.Add(i);
        }
        foreach (var (name, at) in places)
        {
            var distinct = at.Select(i => moments.Sources[moments.SourceOf[i]].Recording).Distinct().Count();
            if (distinct < recordings) continue;
            // Not closed: some longer cell has as many places, so that it stands wherever this one does.
            var first = at[0];
            if (length < Most && names[length + 1][first] is >= 0 and var right && counts[length + 1][right] == at.Count) continue;
            if (length < Most && moments.Before(first) is { } before && names[length + 1][before] is >= 0 and var left
                && counts[length + 1][left] == at.Count) continue;
            yield return new(length, [.. at.Select(i => new Occurrence(moments.SourceOf[i], moments.At[i], moments.At[i + length - 1]))],
                distinct, habits.Surprise(first, length));
        }
    }

    /// <summary>How likely each token follows the one before in all sources, with one added to each count.</summary>
    private sealed class Habits
    {
        private readonly Moments moments;
        private readonly Dictionary<(int, int), int> pairs = [];
        private readonly Dictionary<int, int> befores = [];
        private readonly int kinds;

        public Habits(Moments moments)
        {
            this.moments = moments;
            var seen = new HashSet<int>();
            for (var i = 0; i < moments.Count; i++)
            {
                if (!moments.CanStart[i]) continue;
                seen.Add(moments.Tokens[i]);
                if (i == 0 || moments.SourceOf[i - 1] != moments.SourceOf[i]) continue;
                var pair = (moments.Tokens[i - 1], moments.Tokens[i]);
                pairs[pair] = pairs.GetValueOrDefault(pair) + 1;
                befores[pair.Item1] = befores.GetValueOrDefault(pair.Item1) + 1;
            }
            kinds = seen.Count;
        }

        public double Surprise(int first, int length)
        {
            var bits = 0.0;
            for (var i = first + 1; i < first + length; i++)
            {
                var (before, token) = (moments.Tokens[i - 1], moments.Tokens[i]);
                bits -= Math.Log2((pairs.GetValueOrDefault((before, token)) + 1.0) / (befores.GetValueOrDefault(before) + kinds));
            }
            return bits / (length - 1);
        }
    }
}
