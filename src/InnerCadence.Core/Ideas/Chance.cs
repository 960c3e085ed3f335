using InnerCadence.Core.Music;

namespace InnerCadence.Core.Ideas;

/// <summary>How often an idea would appear in the player's own material with its beats in another order (evidence.md, "Common by
/// chance").</summary>
/// <param name="Observed">Places in what was played, without the exemplar's own.</param>
/// <param name="Expected">Mean over the shuffles.</param>
/// <param name="P">Share of the shuffles with as many or more; the played one counts as one of them.</param>
public sealed record Chance(int Observed, double Expected, double P)
{
    public const int Shuffles = 200;

    /// <summary>Why an idea cannot be held against chance; nothing where it can.</summary>
    public static string? WhyNot(Idea idea)
    {
        var beats = idea.Exemplar.Strokes.Select(s => (idea.Exemplar.Meters.Locate(s.At) is var (bar, inBar) ? bar : 0,
            inBar.Value / idea.Exemplar.Meters.MeterOf(bar).Beat.Value)).Distinct().Count();
        return beats < 2 ? "It lies inside one beat, so that shuffled beats hold it as often: that cannot be tested." : null;
    }

    /// <param name="exemplar">Which passage it was cut out of, and its bars there: left out of both sides, since there it is by definition;
    /// nothing where that is not known.</param>
    /// <param name="tell">Hears after each shuffle how many are done, and says whether to go on.</param>
    /// <returns>Nothing where it was told to stop.</returns>
    public static Chance? Of(Idea idea, IReadOnlyList<Passage> passages, (int Passage, int FirstBar, int LastBar)? exemplar, int seed,
        Func<int, bool> tell)
    {
        var matcher = new Matcher(idea);
        bool IsExemplar(Passage passage, int index, Sighting s) => exemplar is { } own && own.Passage == index
            && passage.Meters.Locate(s.Start).Bar <= own.LastBar
                && passage.Meters.Locate(new(Math.Max(s.Start.Value, s.End.Value - 1))).Bar >= own.FirstBar;
        int Count(Func<Passage, int, Passage> make) => passages.Select((p, i) => (p, i)).AsParallel()
            .Sum(x => matcher.FindIn(make(x.p, x.i)).Count(s => s.Verdict != Verdict.NearMiss && !IsExemplar(x.p, x.i, s)));
        var observed = Count((p, _) => p);
        var (sum, asMany) = (0L, 1);
        for (var n = 0; n < Shuffles; n++)
        {
            var shuffle = n;
            var found = Count((p, i) => Shuffled(p, new Random(Seed(seed, shuffle, i))));
            sum += found;
            if (found >= observed) asMany++;
            if (!tell(n + 1)) return null;
        }
        return new(observed, sum / (double)Shuffles, asMany / (double)(Shuffles + 1));
    }

    /// <summary>Of a passage in a shuffle: the same in every process, unlike a hash code.</summary>
    public static int Seed(int seed, int shuffle, int passage) =>
        unchecked((int)((uint)seed * 2654435761u + (uint)shuffle * 40503u + (uint)passage * 2246822519u));

    /// <summary>The beats of each bar in a random order, with all that is struck in them.</summary>
    public static Passage Shuffled(Passage passage, Random random)
    {
        var strokes = new List<Stroke>(passage.Strokes.Count);
        var byBar = passage.Strokes.ToLookup(s => passage.Meters.Locate(s.At).Bar);
        for (var bar = 0; bar < passage.Bars; bar++)
        {
            var (start, meter) = (passage.Meters.StartOf(bar), passage.Meters.MeterOf(bar));
            var order = Enumerable.Range(0, meter.Counts).ToArray();
            random.Shuffle(order);
            foreach (var stroke in byBar[bar])
            {
                var inBar = stroke.At - start;
                var beat = inBar.Value / meter.Beat.Value;
                strokes.Add(stroke with { At = start + meter.Beat * order[beat] + new Tick(inBar.Value % meter.Beat.Value) });
            }
        }
        return passage with { Strokes = Passage.InOrder(strokes) };
    }
}
