using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Rhythm;

/// <summary>Which way successive toms go.</summary>
public enum TomDirection { None, Down, Up, Level, Mixed }

/// <summary>What is computed of any passage (evidence.md, "Traits").</summary>
/// <param name="FirstHand">Of the first hand stroke; nothing where it is not known or two hands begin.</param>
/// <param name="Starts">Count of the first stroke in its bar, as spoken.</param>
/// <param name="Lands">Count of the last stroke.</param>
/// <param name="Length">From the first stroke to the last.</param>
/// <param name="Linear">No two limbs ever strike together.</param>
/// <param name="DoubleStops">Moments at which two hands strike.</param>
public sealed record Traits(
    Side? FirstHand, Voice? FirstVoice, Voice? LastVoice, string Starts, string Lands, Tick Length, int Strokes, TomDirection Direction,
        bool Linear, int DoubleStops, Ornaments Ornaments)
{
    /// <summary>Nothing of a passage without strokes.</summary>
    public static Traits? Of(Passage passage)
    {
        passage = passage.Played();
        if (passage.Strokes.IsEmpty) return null;
        var (first, last) = (passage.Strokes[0], passage.Strokes[^1]);
        var moments = passage.Strokes.GroupBy(s => s.At).ToList();
        var hands = moments.Select(m => m.Where(s => s.Voice.Limbs == LimbClass.Hand).ToList()).Where(m => m.Count > 0).ToList();
        return new(
            hands.Count > 0 && hands[0].Count == 1 ? hands[0][0].Side : null,
            Leading(moments[0]), Leading(moments[^1]),
            Spoken(passage, first.At), Spoken(passage, last.At), last.At - first.At, passage.Strokes.Count, DirectionOf(passage),
            moments.All(m => m.Count() == 1), hands.Count(m => m.Count > 1),
            passage.Strokes.Aggregate(Ornaments.None, (all, s) => all | s.Ornaments));
    }

    /// <summary>In a few words: starts on the e of 3 with the left hand, lands on 4; down the toms; linear.</summary>
    public string Words
    {
        get
        {
            var parts = new List<string> {
                $"starts on {Starts} on the "
                + $"{FirstVoice!.Name}{(FirstHand is { } hand ? $" with the {hand.ToString().ToLowerInvariant()} hand" : "")}",
                $"lands on {Lands} on the {LastVoice!.Name}" };
            if (Direction is TomDirection.Down or TomDirection.Up) parts.Add($"{Direction.ToString().ToLowerInvariant()} the toms");
            if (Direction == TomDirection.Mixed) parts.Add("up and down the toms");
            if (Linear) parts.Add("linear");
            if (DoubleStops > 0) parts.Add($"{DoubleStops} double {(DoubleStops == 1 ? "stop" : "stops")}");
            if (Ornaments != Ornaments.None) parts.Add(Ornaments.ToString().ToLowerInvariant());
            parts.Add($"{Strokes} {(Strokes == 1 ? "stroke" : "strokes")}");
            return string.Join("; ", parts);
        }
    }

    /// <summary>Of strokes together the one of the hands that is highest on the kit, else the first.</summary>
    private static Voice Leading(IEnumerable<Stroke> moment) => moment.OrderBy(s => s.Voice.Limbs == LimbClass.Hand ? 0 : 1)
        .ThenBy(s => s.Voice).First().Voice;

    private static string Spoken(Passage passage, Tick at)
    {
        var (bar, inBar) = passage.Meters.Locate(at);
        return CountNames.Spoken(inBar, passage.Meters.MeterOf(bar));
    }

    private static TomDirection DirectionOf(Passage passage)
    {
        var toms = passage.Strokes.Where(s => s.Voice.Family == Family.Tom && s.Voice != Voice.AnyTom).Select(s => s.Voice.Order).ToList();
        if (toms.Count < 2) return TomDirection.None;
        var moves = toms.Zip(toms.Skip(1), (a, b) => Math.Sign(b - a)).Where(m => m != 0).Distinct().ToList();
        return moves switch { [] => TomDirection.Level, [1] => TomDirection.Down, [-1] => TomDirection.Up, _ => TomDirection.Mixed };
    }
}
