using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Practice;

namespace InnerCadence.Core.Tests.Practice;

/// <summary>A figure for practice is as loud, stroke for stroke, as it is written.</summary>
public class LoudnessOfRounds
{
    private const string Figure = "HH: 8ths\nSN: 2 4 4&\nBD: 1 3\n";

    private static Passage Read(string text) => CountLines.Parse(text).Passage;

    public static TheoryData<string> Lines => ["", "LV: 1 f > 4 p", "LV: 3 ff", "LV: 1 pp < 2 f | 1 mp", "LV: 3 p < | 1 f",
        "LV: 2 p\nLV SN: 4 ff", "LV SN: 1 p < 4& f"];

    /// <summary>A hairpin up to the end is steeper by a 32nd: its last strokes are at most half a step from what they were.</summary>
    private static void Alike(Passage passage, Stroke stroke, double wanted) => passage.LevelOf(stroke).ShouldBe(wanted, 0.51);

    private static void IsWritten(Passage passage)
    {
        var read = CountLines.Parse(CountWriter.Write(passage));
        read.Problems.ShouldBeEmpty(CountWriter.Write(passage));
        read.Passage.Levels.ShouldBe(passage.Levels);
    }

    [Theory, MemberData(nameof(Lines))]
    public void Every_round_is_as_loud_as_the_first(string level)
    {
        var figure = Read(Figure + level);
        var rounds = Core.Practice.Rounds.Of(figure, [new(1, true), new(2, false), new(3, true)]);
        foreach (var stroke in rounds.Strokes)
            Alike(rounds, stroke, figure.LevelOf(stroke with { At = new(stroke.At.Value % figure.Length.Value) }));
        IsWritten(rounds);
    }

    [Theory, MemberData(nameof(Lines))]
    public void At_half_speed_it_grows_as_far(string level)
    {
        var figure = Read(Figure + level);
        var slow = Core.Practice.Rounds.HalfSpeed(figure);
        foreach (var stroke in slow.Strokes)
            slow.LevelOf(stroke).ShouldBe(figure.LevelOf(stroke with { At = new(stroke.At.Value / 2) }), 1e-9);
        IsWritten(slow);
    }

    [Theory, MemberData(nameof(Lines))]
    public void What_is_displaced_takes_its_loudness_along(string level)
    {
        var figure = Read(Figure + level);
        foreach (var seed in Enumerable.Range(0, 6))
            foreach (var variation in Variations.Of(figure, seed))
            {
                IsWritten(variation.Passage);
                if (variation.Rule != "displaced") continue;
                var by = variation.Passage.Strokes.Where(s => s.Voice == Voice.Kick).Min(s => s.At.Value) % (Tick.PerQuarter * 2);
                foreach (var stroke in variation.Passage.Strokes)
                {
                    var before = stroke with { At = new((stroke.At.Value - by + figure.Length.Value) % figure.Length.Value) };
                    // Cut in two, a hairpin is told in whole steps.
                    variation.Passage.LevelOf(stroke).ShouldBe(figure.LevelOf(before), 0.76);
                }
            }
    }
}
