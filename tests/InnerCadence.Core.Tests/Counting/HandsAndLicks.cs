using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Tests.Counting;

/// <summary>Sticking lines and lick blocks, where the checked cases leave off.</summary>
public class HandsAndLicks
{
    [Theory]
    [InlineData("SN: 1 2\nST: R X", 2, 7, "is no hand")]
    [InlineData("SN: 1 2\nST: R L R", 2, 9, "more letters than strokes")]
    [InlineData("SN: 1 2 | 3\nST: R L", 2, 1, "bar 2, 3")]
    [InlineData("SN: 1 2 | 3\nST: R | L", 2, 5, "bar 1, 2")]
    [InlineData("SN: 1 2\nST: ... R", 2, 9, "stands last")]
    [InlineData("SN: 1\nHH: 1\nST: R", 3, 5, "write B")]
    [InlineData("SN: 1\nST: B", 2, 5, "write R or L")]
    [InlineData("SN: 1\nBD: 2\nST: R K K", 3, 9, "more letters")]
    [InlineData("SN: 1\nST: R\nST: L", 3, 1, "already in line 2")]
    [InlineData("BD: 1 2\nSF: R B", 2, 7, "is no foot")]
    [InlineData("SN: 1\nST: % ", 2, 5, "is no hand")]
    [InlineData("SN: 1 | 2\nST: % | R", 2, 5, "this is the first")]
    [InlineData("ON: SN", 1, 1, "lick 16t @3")]
    [InlineData("lick 16t", 1, 1, "its hands or its drums")]
    [InlineData("lick 16ths @9\nST: R", 1, 13, "no such place")]
    [InlineData("lick 16ths @70.1\nST: R", 1, 16, "there is no bar 70")]
    [InlineData("lick fast\nST: R", 1, 1, "begins with its unit")]
    [InlineData("lick 16ths\nST: R L\nON: SN", 2, 7, "2 columns of hands and 1 of drums")]
    [InlineData("lick 16ths\nST: R\nON: XY", 3, 5, "is no voice")]
    [InlineData("lick 16ths\nST: R\nON: SN>", 3, 5, "marks go on the letters")]
    [InlineData("lick 16ths\nST: B\nON: SN", 3, 5, "two drums")]
    [InlineData("lick 16ths\nST: .\nON: SN", 3, 5, "stands in both lines")]
    [InlineData("lick 16ths\nST: Ro\nON: SN", 2, 6, "has no open sound")]
    [InlineData("SN: 1\nlick 16ths\nST: R", 3, 5, "here already")]
    public void A_fault_names_its_place_and_what_to_write(string text, int line, int column, string told)
    {
        var problem = CountLines.Parse(text).Problems.First(p => p.Severity == Severity.Error);
        (problem.At.Line, problem.At.Column).ShouldBe((line, column), problem.Message);
        problem.Message.ShouldContain(told);
    }

    [Fact]
    public void A_bar_of_letters_that_does_not_fit_costs_no_other_bar()
    {
        var strokes = CountLines.Parse("SN: 1 2 | 1 2\nST: R L R | L R").Passage.Strokes;
        strokes.Select(s => s.Side).ShouldBe([null, null, Side.Left, Side.Right]);
    }

    [Fact]
    public void Hands_are_written_as_a_line_where_that_is_shorter_and_as_marks_where_not()
    {
        Canonical("SN: 1R e & a").ShouldBe("SN: 1R e & a\n");
        Canonical("SN: 1R eL &R aR 2L eR &L aL 3R eL &R aR 4L eR &L aL").ShouldBe("SN: 16ths\nST: RLRR LRLL RLRR LRLL\n");
        Canonical("SN: 1 e\nST: r L").ShouldBe("SN: 1 e\nST: rL\n");
        Canonical("BD: 1 &\nSF: r L").ShouldBe("BD: 1 &\nSF: rL\n");
        Canonical("lick 32nds @1t\nON: . SN").ShouldContain("lick 32nds @1.1t\nON: . SN\n");
    }

    private static string Canonical(string text) => CountWriter.Write(CountLines.Parse(text).Passage);
}
