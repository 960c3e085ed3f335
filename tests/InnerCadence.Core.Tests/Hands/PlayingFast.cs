using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Hands;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Hands;

/// <summary>hands.md, "Playability".</summary>
public class PlayingFast
{
    private static Playability Of(string text, double tempo) =>
        Playability.Of(CountLines.Parse(text).Passage, StickingSettings.Usual with { Tempo = Bpm.Of(tempo)!.Value });

    [Fact]
    public void Each_limb_has_its_peak_its_shortest_gap_and_where()
    {
        var kick = Of("BD: 1 e & a 3\nHH: 8ths", 120).Limbs.Single(l => l.Limb == "kick foot");
        kick.Peak.ShouldBe(8, 1e-9);
        kick.ShortestGap.ShouldBe(0.125, 1e-9);
        (kick.Strokes, kick.Where, kick.IsTooFast).ShouldBe((5, "1", true));
        Of("BD: 1 e & a 3", 90).Limbs.Single().IsTooFast.ShouldBeFalse("6 a second are within 6.5");
        Of("SN: 16ths", 120).Limbs.Select(l => (l.Limb, Math.Round(l.Peak, 6))).ShouldBe([("right hand", 4), ("left hand", 4)]);
    }

    [Fact]
    public void A_hand_may_be_faster_in_a_burst_than_what_it_keeps_up()
    {
        bool TooFast(string text, double tempo) => Of(text, tempo).Limbs.Single(l => l.Limb == "right hand").IsTooFast;
        TooFast("SN: 1R eR &R aR", 140).ShouldBeFalse("9.3 a second, four of them");
        TooFast("SN: 1R eR &R aR 2R eR &R aR 3R eR &R aR", 140).ShouldBeTrue("twelve of them");
        TooFast("SN: 1R eR &R aR 2R eR &R aR 3R eR &R aR", 110).ShouldBeFalse();
        TooFast("SN: 1R eR &R aR", 160).ShouldBeTrue("10.7 a second");
    }

    [Theory]
    [InlineData("BD: 1 e' & a' 2", "nothing is too fast here", 60, null)]
    [InlineData("BD: 32nds@1-2", "every second of 32nds", 90, "1 e & a 2 e & a")]
    [InlineData("BD: 32nds@1-2", "every fourth", 140, "1 & 2 &")]
    [InlineData("BD: 1e & a 2", "the one on the beat stays", 130, "1& 2")]
    public void The_single_pedal_version_of_a_run_is_even(string text, string why, double tempo, string? kept) =>
        (Of(text, tempo).SinglePedal?.Strokes.Select(s => s.At).ToArray())
            .ShouldBe(kept is null ? null : CountLines.Parse($"BD: {kept}").Passage.Strokes.Select(s => s.At).ToArray(), why);

    [Fact]
    public void A_run_of_kicks_needs_two_feet_and_then_the_hat_foot_is_in_the_way()
    {
        var fast = Of("BD: 1 e & a 2\nHF: 2 4", 130);
        fast.NeedsTwoFeet.ShouldBeTrue();
        fast.Conflicts.ShouldHaveSingleItem().ShouldBe("the hat foot on 2 while the left foot helps with the kick");
        fast.SinglePedal!.Strokes.Where(s => s.Voice == Voice.Kick).Select(s => s.At.Value).ShouldBe([0, 5040, 10080]);
        Of("BD: 1 3\nHF: 2 4", 130).ShouldSatisfyAllConditions(p => p.NeedsTwoFeet.ShouldBeFalse(), p => p.Conflicts.ShouldBeEmpty(), p =>
            p.SinglePedal.ShouldBeNull());
    }

    [Fact]
    public void Optional_strokes_go_first_then_unsure_ones_then_ghosts()
    {
        Of("SN: 1 (e) &? a*\nBD: 1 e & a", 160).DropFirst.Select(s => s.Optional ? "optional" : s.Unsure ? "unsure" : "ghost")
            .ShouldBe(["optional", "unsure", "ghost"]);
        Of("SN: 1 (3e)", 60).DropFirst.ShouldBeEmpty("it can be played as it is");
    }
}
