using CsCheck;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Tests.Text;

/// <summary>How a text is taken apart, and what is told of it.</summary>
public class LinesAndProblems
{
    [Fact]
    public void A_line_has_no_comment_and_plain_signs_in_the_columns_where_they_were_typed()
    {
        var looks = new Looks();
        var lines = SourceText.Lines("\uFEFFSN: 2\u00A04 # back-beat\r\nBD: 1\u20132\tT1\u2019s\n# all of it", looks: looks);
        lines.Select(l => (l.Number, l.Text)).ShouldBe([(1, "SN: 2 4 "), (2, "BD: 1-2 T1's"), (3, "")]);
        looks.InOrder().ShouldBe([(new(1, 9, 11), Look.Comment), (new(3, 1, 11), Look.Comment)]);
        SourceText.Lines("x#x", comments: false).Single().Text.ShouldBe("x#x");
    }

    [Fact]
    public void A_line_is_as_long_as_its_words()
    {
        new SourceLine(3, "  SN: 2  ").Whole.ShouldBe(new TextSpan(3, 3, 5));
        new SourceLine(3, "    ").Whole.Length.ShouldBe(1, "a place can be pointed at");
    }

    [Fact]
    public void Every_text_has_as_many_lines_as_it_has_ends_and_no_line_is_longer_than_it_was_typed() =>
        Gen.String[Gen.Char["ab#\r\n\t–’ "], 0, 60].Sample(text =>
        {
            var lines = SourceText.Lines(text);
            lines.Count.ShouldBe(text.Count(c => c == '\n') + 1);
            foreach (var (line, typed) in lines.Zip(text.Split('\n')))
            {
                line.Text.Length.ShouldBeLessThanOrEqualTo(typed.Length);
                for (var i = 0; i < line.Text.Length; i++) if (char.IsAsciiLetter(typed[i])) line.Text[i].ShouldBe(typed[i]);
            }
        });

    [Fact]
    public void Looks_come_in_order_and_never_overlap() =>
        Gen.Select(Gen.Int[1, 3], Gen.Int[1, 20], Gen.Int[0, 6], Gen.Enum<Look>()).Array[0, 30].Sample(parts =>
        {
            var looks = new Looks();
            foreach (var (line, column, length, look) in parts) looks.Add(look, new(line, column, length));
            var told = looks.InOrder();
            foreach (var (one, next) in told.Zip(told.Skip(1)))
                (one.At.Line < next.At.Line || (one.At.Line == next.At.Line && one.At.Column + one.At.Length <= next.At.Column))
                    .ShouldBeTrue($"{one} {next}");
            told.Any().ShouldBe(parts.Any(p => p.Item3 > 0));
        });

    [Fact]
    public void A_problem_is_told_once_and_in_the_order_of_the_text()
    {
        var problems = new Problems();
        problems.Error(new(2, 1, 3), "late");
        problems.Warning(new(1, 5, 1), "early");
        problems.Error(new(2, 1, 3), "late");
        problems.Error(new(1, 2, 1), "put right", "2&");
        problems.InOrder.Select(p => (p.At.Line, p.At.Column, p.Message)).ShouldBe([(1, 2, "put right"), (1, 5, "early"), (2, 1, "late")]);
        problems.InOrder[0].Fixes.ShouldHaveSingleItem().ShouldBe(new Fix("Write 2&", new TextEdit(new(1, 2, 1), "2&")));
        (problems.Count, problems.Errors).ShouldBe((3, 3));
    }

    [Fact]
    public void After_two_hundred_one_sentence_says_that_there_are_more()
    {
        var problems = new Problems();
        for (var i = 1; i <= 300; i++) problems.Error(new(i, 1, 1), "wrong");
        problems.Count.ShouldBe(Problems.Most + 1);
        problems.InOrder[^1].Message.ShouldBe("There are more problems; they are told when these are put right.");
        problems.Errors.ShouldBe(300);
    }
}
