using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Music;

public class Kits
{
    private static Passage Read(string text) => CountLines.Parse(text).Passage;

    private static string Toms(string text, int toms) =>
        string.Join(' ', Kit.Remap(Read(text), Kit.Toms(toms)).Strokes.Select(s => s.Voice.Code));

    [Theory]
    [InlineData(1, "T1 T1 T1 T1")]
    [InlineData(2, "T1 T1 FT FT")]
    [InlineData(3, "T1 T2 T2 FT")]
    [InlineData(4, "T1 T2 FT F2")]
    public void A_descent_over_four_toms_never_turns_upward_on_fewer(int toms, string expected) =>
        Toms("T1: 1\nT2: 2\nT3: 3\nFT: 4\n", toms).ShouldBe(expected);

    [Fact]
    public void Two_toms_spread_over_four_keep_the_ends() => Toms("T1: 1 3\nFT: 2 4\n", 4).ShouldBe("T1 F2 T1 F2");

    [Fact]
    public void One_floor_tom_stays_the_lowest_and_one_high_tom_the_highest()
    {
        Toms("FT: 1\n", 3).ShouldBe("FT");
        Toms("T2: 1\n", 3).ShouldBe("T1");
    }

    [Fact]
    public void Toms_struck_together_stay_two_where_there_are_two() => Toms("T1: 1\nT2: 1\nFT: 2\n", 2).ShouldBe("T1 FT FT");

    [Fact]
    public void A_tom_not_known_which_and_other_drums_stay() => Toms("TT: 1\nSN: 2\nT2: 3\n", 2).ShouldBe("TT SN T1");

    [Fact]
    public void Codes_are_read_high_to_low_whatever_their_order_and_nothing_else_is_a_tom()
    {
        Kit.ReadToms("FT t1").ShouldNotBeNull().Select(v => v.Code).ShouldBe(["T1", "FT"]);
        Kit.ReadToms("T1 SN").ShouldBeNull();
        Kit.ReadToms("").ShouldBeNull();
    }
}
