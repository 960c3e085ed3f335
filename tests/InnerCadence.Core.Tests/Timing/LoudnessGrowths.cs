using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Tests.Timing;

/// <summary>Growing and fading is found where it was played, and not where it was not.</summary>
public class LoudnessGrowths
{
    private static readonly Passage Groove = CountLines.Parse("HH: 8ths | % | % | %\nSN: 2 4 | % | % | %\nBD: 1 3 | % | % | %").Passage;

    /// <summary>Snare twice as loud as the hat; each stroke some per cent off; `level` in steps by quarter.</summary>
    private static List<StrokeOffset> Played(Func<double, double> level, int seed = 3)
    {
        var random = new Random(seed);
        return [.. Groove.Strokes.Select(s => new StrokeOffset(s.At, s.Voice, 0,
            Loudness: (s.Voice == Voice.Hat ? 0.25 : 0.45) * (0.9 + 0.2 * random.NextDouble())
                * LevelWords.Factor(level(s.At.Value / (double)Tick.PerQuarter))))];
    }

    [Fact]
    public void A_span_that_grows_is_found_with_its_ends()
    {
        var grows = LoudnessGrowth.Of(Groove, Played(q => Math.Clamp((q - 8) / 8, 0, 1) * 3))!;
        grows.Steps.ShouldBe(3, 0.4);
        (grows.From.Value / Tick.PerQuarter).ShouldBeInRange(6, 9);
        (grows.To.Value / Tick.PerQuarter).ShouldBeInRange(15, 16);
        grows.Words(Groove, 5).ShouldStartWith("growing from ");
        grows.Words(Groove, 5).ShouldContain("of bar 7 to ");
        LoudnessGrowth.Of(Groove, Played(q => Math.Clamp(q / 15, 0, 1) * -2.5))!.Steps.ShouldBe(-2.5, 0.4);
    }

    [Fact]
    public void Its_line_of_levels_is_read_as_it_is_written()
    {
        var grows = LoudnessGrowth.Of(Groove, Played(q => Math.Clamp((q - 8) / 8, 0, 1) * 3))!;
        var text = CountWriter.Write(Groove with { Levels = grows.Marks });
        var again = CountLines.Parse(text);
        again.Problems.ShouldBeEmpty();
        again.Passage.Levels.ShouldBe(grows.Marks);
        LoudnessGrowth.Of(again.Passage, Played(q => q / 5)).ShouldBeNull("the text says it");
        new LoudnessGrowth(Tick.Zero, new(4 * Tick.PerQuarter), 9, 20).Levels.ShouldBe((Level.Pp, Level.Ff));
        new LoudnessGrowth(Tick.Zero, new(4 * Tick.PerQuarter), -2, 20).Levels.ShouldBe((Level.F, Level.Mp));
    }

    [Fact]
    public void Where_nothing_grows_nothing_is_told()
    {
        for (var seed = 0; seed < 40; seed++) LoudnessGrowth.Of(Groove, Played(_ => 0, seed)).ShouldBeNull();
        LoudnessGrowth.Of(Groove, [.. Played(q => q / 4).Select(o => o with { Loudness = null })]).ShouldBeNull();
    }
}
