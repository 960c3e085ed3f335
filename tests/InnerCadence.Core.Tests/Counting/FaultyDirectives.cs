using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Tests.Counting;

/// <summary>What is faulty counts as not written, and each fault is told where it stands.</summary>
public class FaultyDirectives
{
    [Fact]
    public void A_good_one_after_a_faulty_one_stands_and_is_no_duplicate()
    {
        var read = CountLines.Parse("tempo fast\ntempo 96\npickup 9\npickup 4\nmeter 4/5\nmeter 7/8\nSN: 5");
        read.Passage.Tempo.ShouldBe(Bpm.Of(96));
        read.Passage.Meters.ToString().ShouldBe("7/8");
        read.Passage.Pickup.ShouldBe(new(3 * 5040));
        read.Problems.Select(p => p.At.Line).ShouldBe([1, 3, 5]);
    }

    [Fact]
    public void A_second_good_one_is_still_one_too_many()
    {
        var read = CountLines.Parse("tempo 96\ntempo fast\ntempo 100\nSN: 1");
        read.Passage.Tempo.ShouldBe(Bpm.Of(96));
        read.Problems.Select(p => p.At.Line).ShouldBe([2, 3]);
        read.Problems.ShouldAllBe(p => p.Message.Contains("stands already in line 1"));
    }

    [Fact]
    public void Each_faulty_meter_of_a_list_is_told_at_its_own_column()
    {
        var read = CountLines.Parse("meter 4/5 7/8 33/4\nSN: 1");
        read.Problems.Select(p => (p.At.Column, p.At.Length)).ShouldBe([(7, 3), (15, 4)]);
        read.Passage.Meters.ToString().ShouldBe("4/4");
    }

    [Theory]
    [InlineData("SN: 1 2 3 | 1 2\nST: RLR | %", 2, 11, 1, "more letters than strokes in bar 2")]
    [InlineData("SN: 1 2 | 1 2 3\nST: RL | %", 2, 10, 1, "fewer letters")]
    [InlineData("SN: 1 2 | 1 2 | 1\nST: RL | %x2", 2, 10, 3, "more letters than strokes in bar 3")]
    [InlineData("SN: 1 2 | 1 2L\nST: RR | %", 2, 10, 1, "marked L")]
    public void What_does_not_fit_is_told_where_it_stands(string text, int line, int column, int length, string told)
    {
        var problem = CountLines.Parse(text).Problems.First(p => p.Severity == Severity.Error);
        (problem.At.Line, problem.At.Column, problem.At.Length).ShouldBe((line, column, length), problem.Message);
        problem.Message.ShouldContain(told);
    }

    [Fact]
    public void A_lick_tells_what_is_wrong_with_its_head_its_hands_and_its_drums_at_once()
    {
        CountLines.Parse("lick 17ths @1\nST: R . K\nON: SN SN T1").Problems.Select(p => (p.At.Line, p.At.Column))
            .ShouldBe([(1, 1), (3, 8), (3, 11)]);
        CountLines.Parse("lick 16ths @9\nST: R x\nON: SN ZZ").Problems.Select(p => (p.At.Line, p.At.Column))
            .ShouldBe([(1, 13), (2, 7), (3, 8)]);
    }

    [Theory]
    [InlineData("99999999999999999999")]
    [InlineData("2147483648")]
    [InlineData("10000")]
    [InlineData("64")]
    public void A_number_of_repeats_beyond_any_bound_is_limited_like_any_other(string times)
    {
        var read = CountLines.Parse($"SN: 1 | %x{times}");
        read.Passage.Bars.ShouldBe(64);
        read.Passage.Strokes.Count.ShouldBe(64);
        read.Problems.ShouldHaveSingleItem().Message.ShouldStartWith("A passage has at most 64 bars");
    }

    [Theory]
    [InlineData("%x")]
    [InlineData("%x0")]
    [InlineData("%x-3")]
    [InlineData("%x3.5")]
    public void What_is_no_number_of_repeats_is_told(string repeat) =>
        CountLines.Parse($"SN: 1 | {repeat}").Problems.ShouldHaveSingleItem().Message.ShouldContain("is no repeat");
}
