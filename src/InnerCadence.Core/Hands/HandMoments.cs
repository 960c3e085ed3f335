using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hands;

/// <summary>What the hands do at one place: one stroke or two, some of them tied to a hand already.</summary>
/// <param name="Seconds">From the start of the passage.</param>
internal sealed record HandMoment(Tick At, Seconds Seconds, ValueList<Stroke> Strokes, ValueList<Side?> Fixed, double Pulse,
    string Count)
{
    /// <summary>A flam or drag takes the other hand too.</summary>
    public bool TakesBoth => Strokes.Count > 1 || Strokes.Any(s => (s.Ornaments & (Ornaments.Flam | Ornaments.Drag)) != 0);

    /// <param name="tied">Hands that a voice is always played with.</param>
    /// <param name="problems">Places where more hands are asked for than there are.</param>
    public static IReadOnlyList<HandMoment> Of(Passage passage, Bpm tempo, IReadOnlyDictionary<Voice, Side> tied, List<string> problems)
    {
        passage = passage.Played();
        var moments = new List<HandMoment>();
        foreach (var group in passage.Strokes.Where(s => s.Voice.Limbs == LimbClass.Hand).GroupBy(s => s.At))
        {
            var (bar, inBar) = passage.Meters.Locate(group.Key);
            var meter = passage.Meters.MeterOf(bar);
            var count = $"{(passage.Bars > 1 ? $"bar {bar + 1}, " : "")}{CountNames.Spoken(inBar, meter)}";
            var strokes = group.ToList();
            var hands = strokes.Count + (strokes.Any(s => (s.Ornaments & (Ornaments.Flam | Ornaments.Drag)) != 0) ? 1 : 0);
            if (hands > 2) problems.Add($"{count}: {CountNames.Number(hands)} hands are asked for "
                + $"({string.Join(" and ", strokes.Select(s => (s.Ornaments & Ornaments.Flam) != 0 ? $"a flam on the {s.Voice.Name}" : s.Voice.Name))}).");
            if (strokes.Count > 2) strokes = [.. strokes.Take(2)];
            var past = inBar.Value % meter.Beat.Value;
            var pulse = past == 0 ? 1 : past * 2 == meter.Beat.Value ? 0.5 : 0;
            IReadOnlyList<Side?> sides = [.. strokes.Select(s => s.Side ?? (tied.TryGetValue(s.Voice, out var side) ? side : (Side?)null))];
            if (sides.Count == 2 && sides[0] is { } one && sides[1] == one)
            {
                problems.Add($"{count}: {strokes[0].Voice.Name} and {strokes[1].Voice.Name} are both tied to the "
                    + $"{one.ToString().ToLowerInvariant()} hand.");
                sides = [one, null];
            }
            moments.Add(new(group.Key, tempo.SecondsOf(group.Key), strokes, [.. sides], pulse, count));
        }
        foreach (var (a, b) in moments.Zip(moments.Skip(1)))
            if (b.Seconds - a.Seconds < CrossStickTurn && a.Strokes.Any(s => s.Voice == Voice.CrossStick) != b.Strokes.Any(s =>
                s.Voice == Voice.CrossStick) && (a.Strokes.Concat(b.Strokes)).Any(s => s.Voice == Voice.Snare)
                && a.Strokes.Concat(b.Strokes).Any(s => s.Voice == Voice.CrossStick))
                problems.Add($"{b.Count}: from cross-stick to open snare, or back, in {(b.Seconds - a.Seconds) * 1000:0} ms.");
        return moments;
    }

    /// <summary>Turning the stick round takes about so many seconds.</summary>
    private const double CrossStickTurn = 0.15;
}
