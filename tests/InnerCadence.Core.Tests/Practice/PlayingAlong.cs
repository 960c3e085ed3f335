using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;
using InnerCadence.Core.Practice;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Tests.Practice;

/// <summary>What is struck on pads beside what is written, round after round.</summary>
public class PlayingAlong
{
    private static readonly Passage Groove = CountLines.Parse("tempo 100\nHH: 8ths\nSN: 2> (2a) 4\nBD: 1 3&").Passage;
    private static readonly LaidBars Laid = LaidBars.AtItsTempo(Groove, Bpm.Usual);

    private static List<PadStroke> Played(int rounds, Func<int, Stroke, double?> off) =>
        [.. Enumerable.Range(0, rounds).SelectMany(round => Groove.Strokes.Select(s => (s, Off: off(round, s), Round: round)))
            .Where(x => x.Off is not null)
            .Select(x => new PadStroke(Laid.At(x.s.At) + Laid.End * x.Round + Seconds.OfMilliseconds(x.Off!.Value), x.s.Voice,
                x.s.Dynamic switch { Dynamic.Ghost => 0.3, Dynamic.Accent => 0.9, _ => 0.6 }))];

    private static IReadOnlyList<PlayedRound> Of(int rounds, IReadOnlyList<PadStroke> played) =>
        PlayedRounds.Of(Groove, s => Laid.At(s.At), Laid.End, rounds, played);

    [Fact]
    public void What_is_played_as_it_is_written_is_clean_also_where_the_first_stroke_comes_before_its_round()
    {
        var rounds = Of(3, Played(3, (round, s) => s.At == Tick.Zero ? -20 : 4));
        rounds.Select(r => (r.IsClean, r.Words)).ShouldAllBe(r => r.IsClean && r.Words == "every stroke in its place");
        rounds[1].Mean!.Value.ShouldBe(-0.0, 6);
        // The next round has begun, a little early, and is not over: nothing is too many in the one before.
        Of(2, Played(3, (round, s) => s.At == Tick.Zero ? -20 : 4)).ShouldAllBe(r => r.IsClean);
    }

    [Fact]
    public void Early_late_missed_and_too_many_are_told_by_voice()
    {
        var played = Played(2, (round, s) => (round, s.Voice.Code) switch
        {
            (1, "SN") => 45,
            (1, "BD") when s.At > Tick.Zero => null,
            _ => 0
        });
        played.Add(new(Laid.End + new Seconds(0.4), Voice.Crash, 0.9));
        var rounds = Of(2, played);
        rounds[0].IsClean.ShouldBeTrue();
        rounds[1].IsClean.ShouldBeFalse();
        rounds[1].Words.ShouldBe("crash: 1 too many; kick: 1 missed; snare: 3 late");
    }

    [Fact]
    public void A_loud_ghost_and_a_soft_accent_are_told_where_velocity_is_known()
    {
        var played = Played(1, (_, _) => 0).Select(p => p.Voice == Voice.Snare ? p with { Velocity = 0.6 } : p).ToList();
        Of(1, played)[0].Voices.Single(v => v.Voice == Voice.Snare).ShouldSatisfyAllConditions(v => v.Loud.ShouldBe(1),
            v => v.Soft.ShouldBe(1));
        Of(1, [.. played.Select(p => p with { Velocity = null })])[0].Words.ShouldBe("every stroke in its place");
    }

    [Fact]
    public void Nothing_played_is_all_missed_and_no_stroke_is_met_twice()
    {
        var silent = Of(2, []);
        silent.ShouldAllBe(r => r.Mean == null && !r.IsClean);
        silent[0].Voices.Sum(v => v.Missed).ShouldBe(Groove.Strokes.Count);
        // Two strokes for one: the nearer is it, the other too many.
        Of(1, [.. Played(1, (_, _) => 0), new(Laid.At(new(Tick.PerQuarter)) + new Seconds(0.04), Voice.Snare, 0.6)])[0].Voices.Single(v =>
            v.Voice == Voice.Snare)
            .ShouldSatisfyAllConditions(v => v.Extra.ShouldBe(1), v => v.Missed.ShouldBe(0));
    }
}
