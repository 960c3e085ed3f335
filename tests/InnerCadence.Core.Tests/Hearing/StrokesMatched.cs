using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Hearing;

/// <summary>Which heard stroke a written one is, with others missing, too many or named wrongly.</summary>
public class StrokesMatched
{
    private static HeardStroke Heard(double at, Voice voice, double strength = 0.95) =>
        new(new(at), voice.Family, voice, null, strength, 0.8, null) { Confidence = strength };

    /// <summary>Quarters of half a second; what each written stroke is, by voice and count, and where it was heard.</summary>
    private static string[] Matched(string text, params HeardStroke[] heard)
    {
        var passage = CountLines.Parse(text).Passage;
        var (written, ordered) = (passage.Strokes.ToList(), heard.OrderBy(h => h.At.Value).ToList());
        return [.. StrokeMatch.Of(written, [.. written.Select(s => s.At.Value / (2.0 * Tick.PerQuarter))], ordered)
            .OrderBy(p => p.Written)
            .Select(p => FormattableString.Invariant(
                $"{written[p.Written].Voice.Code}{1 + written[p.Written].At.Value / (double)Tick.PerQuarter:0.##}={ordered[p.Heard].At.Value:0.###}")
                + (p.Grace < 0 ? "" : FormattableString.Invariant($" after {ordered[p.Grace].At.Value:0.###}")))];
    }

    [Fact]
    public void A_stroke_that_is_missing_takes_no_other_drums()
    {
        Matched("HH: 1 2\nBD: 1 2", Heard(0, Voice.Hat), Heard(0.002, Voice.Ride), Heard(0.5, Voice.Hat), Heard(0.5, Voice.Kick),
            Heard(0.01, Voice.Snare)).ShouldBe(["HH1=0", "BD2=0.5", "HH2=0.5"], ignoreOrder: true);
    }

    [Fact]
    public void Order_holds_where_strokes_lie_near()
    {
        // All 40 ms late: each is nearer to the one before it than to itself.
        Matched("SN: 1 1e 1& 1a", Heard(0.06, Voice.Snare), Heard(0.185, Voice.Snare), Heard(0.31, Voice.Snare), Heard(0.435, Voice.Snare))
            .ShouldBe(["SN1=0.06", "SN1.25=0.185", "SN1.5=0.31", "SN1.75=0.435"]);
    }

    [Fact]
    public void A_drum_heard_for_its_like_is_found_after_those_that_are_themselves()
    {
        Matched("RD: 1 2\nHH: 2", Heard(0, Voice.Hat), Heard(0.5, Voice.Ride), Heard(0.503, Voice.Hat))
            .ShouldBe(["RD1=0", "HH2=0.503", "RD2=0.5"], ignoreOrder: true);
        Matched("TT: 1", Heard(0, Voice.Snare)).ShouldBe(["TT1=0"]);
        Matched("TT: 1", Heard(0.075, Voice.AnyTom)).ShouldBeEmpty();
    }

    [Fact]
    public void The_later_of_a_flam_is_the_stroke()
    {
        Matched("SN: 2f", Heard(0.47, Voice.Snare, 0.7), Heard(0.505, Voice.Snare)).ShouldBe(["SN2=0.505 after 0.47"]);
        Matched("SN: 2f", Heard(0.499, Voice.Snare, 0.7), Heard(0.53, Voice.Snare)).ShouldBe(["SN2=0.53 after 0.499"]);
    }
}
