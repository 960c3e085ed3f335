using System.Numerics.Tensors;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hearing;

/// <summary>When drums were struck that are struck nearly at once.</summary>
/// <remarks>sound.md, "The time of a stroke": of what each family sounds like where no other drum is near, as much is laid together, each at
/// its own moment, as comes nearest to what sounds there: non-negative least squares over the powers of all bands, moments in turn.
/// </remarks>
internal sealed class RisesTogether
{
    /// <summary>Drums nearer than this are told apart, and one this far from every other is struck alone.</summary>
    private static readonly Seconds Near = Seconds.OfMilliseconds(45), Alone = Seconds.OfMilliseconds(60);

    /// <summary>A cymbal's own rise is read more finely than this; one that lies farther off was a drum's.</summary>
    private static readonly Seconds AnotherRise = Seconds.OfMilliseconds(6);

    /// <summary>What share of a cymbal's own sound must be explained better where it is put than where it was read.</summary>
    private const double LeastGain = 0.1;

    /// <summary>A drum that is never heard without a cymbal may sound like it: those are not told apart.</summary>
    private const double OneSound = 0.9;

    /// <summary>Steps of a family's sound before its moment and after, how far a moment is looked for, by what steps, and how far
    /// once it is nearly known.</summary>
    private const int Before = 20, After = 70, Reach = 40, Coarse = 2, Fine = 4;

    /// <summary>Of how many strokes a family's sound is taken, and how often the moments are gone over.</summary>
    private const int Least = 2, Most = 12, Rounds = 3;

    private readonly double[][] power;
    private readonly double step, startsAt;

    /// <param name="energy">Root of the power of each band, a value every <paramref name="step"/> seconds.</param>
    public RisesTogether(double[][] energy, double step, double startsAt)
    {
        (this.step, this.startsAt) = (step, startsAt);
        power = [.. energy.Select(Shares)];
    }

    /// <summary>Powers of a band as shares of what it is in its loudest fiftieth.</summary>
    private static double[] Shares(double[] energy)
    {
        var squared = energy.Select(e => e * e).ToArray();
        var full = squared.Length == 0 ? 1 : squared.Order().ElementAt(squared.Length * 98 / 100);
        TensorPrimitives.Divide(squared, Math.Max(1e-12, full), squared);
        return squared;
    }

    /// <param name="strokes">Family and moment of each, as read one by one.</param>
    /// <returns>The moments: moved where drums are near each other and each is known, and where a cymbal was read from a drum's rise.
    /// </returns>
    public Seconds[] Of(IReadOnlyList<(Family Family, Seconds At)> strokes)
    {
        var moments = strokes.Select(s => s.At).ToArray();
        var known = strokes.Select(s => s.Family).Distinct().ToDictionary(f => f, f => Sum([.. AloneOnes(f, strokes).Take(Most)]));
        foreach (var drums in Groups(strokes).Where(g => g.All(i => known[strokes[i].Family] is not null)))
        {
            int[] beside = [.. Enumerable.Range(0, strokes.Count).Where(i => !IsDrum(strokes[i].Family)
                && known[strokes[i].Family] is { } own && drums.TrueForAll(d => Likeness(own, known[strokes[d].Family]!) < OneSound)
                && strokes[i].At > strokes[drums[0]].At - Alone && strokes[i].At < strokes[drums[^1]].At + Alone)];
            foreach (var (i, at, gain) in Laid([.. drums, .. beside], strokes, known))
                if (IsDrum(strokes[i].Family) ? drums.Count > 1 : Math.Abs(at - strokes[i].At) > AnotherRise && gain > LeastGain)
                    moments[i] = at;
        }
        return moments;
    }

    private static bool IsDrum(Family family) => family is Family.Kick or Family.Snare or Family.Tom;

    /// <summary>Numbers of the drums' strokes, those that lie near each other together, in order of time.</summary>
    private static List<List<int>> Groups(IReadOnlyList<(Family Family, Seconds At)> strokes)
    {
        var groups = new List<List<int>>();
        foreach (var i in Enumerable.Range(0, strokes.Count).Where(i => IsDrum(strokes[i].Family)).OrderBy(i => strokes[i].At.Value))
            if (groups.Count > 0 && strokes[i].At - strokes[groups[^1][^1]].At <= Near) groups[^1].Add(i);
            else groups.Add([i]);
        return groups;
    }

    /// <summary>Bands x steps of the powers of a family's strokes that no drum is near.</summary>
    private IEnumerable<double[][]> AloneOnes(Family family, IReadOnlyList<(Family Family, Seconds At)> strokes) => strokes
        .Where(s => s.Family == family
            && strokes.All(o => o == s || !(IsDrum(o.Family) || o.Family == family) || Math.Abs(o.At - s.At) > Alone))
        .Select(s => Stretch(StepOf(s.At) - Before, Before + After)).OfType<double[][]>();

    /// <summary>A family's sound, whose whole is 1 for each stroke; nothing where there are too few of them.</summary>
    private static double[][]? Sum(List<double[][]> strokes)
    {
        if (strokes.Count < Least) return null;
        double[][] sum = [.. strokes[0].Select(band => new double[band.Length])];
        foreach (var own in strokes)
        {
            var whole = Math.Max(1e-12, own.Sum(band => TensorPrimitives.Sum<double>(band)));
            for (var b = 0; b < own.Length; b++)
                for (var k = 0; k < own[b].Length; k++) sum[b][k] += own[b][k] / whole;
        }
        return sum;
    }

    /// <summary>The cosine of two families' sounds.</summary>
    private static double Likeness(double[][] one, double[][] other)
    {
        double Product(double[][] a, double[][] b) => a.Zip(b, (x, y) => TensorPrimitives.Dot<double>(x, y)).Sum();
        return Product(one, other) / Math.Sqrt(Math.Max(1e-24, Product(one, one) * Product(other, other)));
    }

    /// <summary>Bands x steps of the powers, over what they are before it begins; nothing at the ends.</summary>
    private double[][]? Stretch(int from, int length)
    {
        if (from < 0 || from + length > power[0].Length) return null;
        return [.. power.Select(band =>
        {
            var part = band.AsSpan(from, length).ToArray();
            var floor = TensorPrimitives.Sum<double>(part.AsSpan(0, Before - Fine)) / (Before - Fine);
            for (var k = 0; k < part.Length; k++) part[k] = Math.Max(0, part[k] - floor);
            return part;
        })];
    }

    private int StepOf(Seconds at) => (int)Math.Round((at - startsAt) / step);

    /// <summary>Moves strokes, one after the other, to where all together come nearest to what sounds.</summary>
    /// <param name="which">Numbers of strokes whose families are known.</param>
    /// <returns>Each with its moment, and how much more would be left over were it where it was read, as a share of its own sound; none
    /// at the ends of the stretch.</returns>
    private IEnumerable<(int Stroke, Seconds At, double Gain)> Laid(int[] which, IReadOnlyList<(Family Family, Seconds At)> strokes,
        Dictionary<Family, double[][]?> known)
    {
        double[][][] sounds = [.. which.Select(i => known[strokes[i].Family]!)];
        int[] places = [.. which.Select(i => StepOf(strokes[i].At))];
        var from = places.Min() - Before - Reach / 2;
        if (Stretch(from, places.Max() + After - from) is not { } seen) return [];
        var fit = new Fit(seen, sounds, [.. places.Select(p => p - from)]);
        for (var round = 0; round < Rounds; round++)
            for (var moved = 0; moved < which.Length; moved++)
            {
                var ((best, least), was) = ((fit.PlaceOf(moved), double.MaxValue), fit.PlaceOf(moved));
                var (reach, by) = round == 0 ? (Reach, Coarse) : (Fine, 1);
                for (var place = was - reach; place <= was + reach; place += by)
                {
                    fit.Move(moved, place);
                    if (fit.Left() is var left && left < least) (best, least) = (place, left);
                }
                fit.Move(moved, best);
            }
        return which.Select((stroke, i) => (stroke, new Seconds(startsAt + (fit.PlaceOf(i) + from) * step),
            fit.Gain(i, StepOf(strokes[stroke].At) - from))).ToList();
    }

    /// <summary>Sounds laid at their places under what is seen, as much of each as fits.</summary>
    private sealed class Fit
    {
        private const int Turns = 25;
        private readonly double[][] seen;
        private readonly double[][][] sounds;
        private readonly int[] places;
        private readonly double[] right, much;
        private readonly double[,] gram;

        public Fit(double[][] seen, double[][][] sounds, int[] places)
        {
            (this.seen, this.sounds, this.places) = (seen, sounds, places);
            (right, much, gram) = (new double[places.Length], new double[places.Length], new double[places.Length, places.Length]);
            for (var i = 0; i < places.Length; i++) Move(i, places[i]);
        }

        public int PlaceOf(int sound) => places[sound];

        public void Move(int sound, int place)
        {
            places[sound] = place;
            right[sound] = seen.Select((band, b) => Product(band, 0, sounds[sound][b], place - Before)).Sum();
            for (var other = 0; other < places.Length; other++)
                gram[sound, other] = gram[other, sound] = Enumerable.Range(0, seen.Length)
                    .Sum(b => Product(sounds[other][b], places[other] - Before, sounds[sound][b], place - Before));
        }

        /// <summary>How much more would remain were a sound at another place, as a share of what it is itself.</summary>
        public double Gain(int sound, int other)
        {
            var (left, own, was) = (Left(), much[sound] * much[sound] * gram[sound, sound], places[sound]);
            Move(sound, other);
            var more = Left() - left;
            Move(sound, was);
            return own <= 0 ? 0 : more / own;
        }

        /// <summary>What remains, squared, when as much as fits of each is taken away; what is seen itself is left out, being the same
        /// wherever they lie.
        /// </summary>
        public double Left()
        {
            Array.Clear(much);
            for (var turn = 0; turn < Turns; turn++)
                for (var i = 0; i < much.Length; i++)
                {
                    var rest = right[i];
                    for (var j = 0; j < much.Length; j++) if (j != i) rest -= gram[i, j] * much[j];
                    much[i] = gram[i, i] <= 0 ? 0 : Math.Max(0, rest / gram[i, i]);
                }
            var left = 0.0;
            for (var i = 0; i < much.Length; i++)
            {
                left -= 2 * much[i] * right[i];
                for (var j = 0; j < much.Length; j++) left += much[i] * much[j] * gram[i, j];
            }
            return left;
        }

        /// <summary>The product of two stretches that begin at different steps, within what is seen.</summary>
        private double Product(double[] one, int oneAt, double[] other, int otherAt)
        {
            var from = Math.Max(Math.Max(oneAt, otherAt), 0);
            var to = Math.Min(Math.Min(oneAt + one.Length, otherAt + other.Length), seen[0].Length);
            return to <= from ? 0
                : TensorPrimitives.Dot<double>(one.AsSpan(from - oneAt, to - from), other.AsSpan(from - otherAt, to - from));
        }
    }
}
