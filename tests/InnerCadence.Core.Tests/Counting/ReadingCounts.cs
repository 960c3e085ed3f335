using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Counting;

/// <summary>The language in a drummer's words, beside the checked cases.</summary>
public class ReadingCounts
{
    [Fact]
    public void An_address_is_one_stroke_and_a_running_count_is_two()
    {
        Places("SN: 3&").ShouldBe(["3&"]);
        Places("SN: 3 &").ShouldBe(["3", "3&"]);
    }

    [Fact]
    public void What_was_understood_is_said_in_words()
    {
        ReadBack.Of(CountLines.Parse("HH: 8ths 4&o | %\nSN: 2 4 (2a) | 2 4 (2a)\nBD: 1 3& | 1 3& 1e?").Passage).ShouldBe(
        [
            "Hat on every eighth, open on the & of 4.",
            "Snare on 2 and 4, a ghost on the a of 2.",
            "Kick on 1 and the & of 3 in bar 1; on 1 and the & of 3, perhaps on the e of 1 in bar 2.",
        ]);
    }

    [Theory]
    [InlineData("HH: 8ths\nBD: 1 3\nSN: 2 4", "HH: 8ths\nSN: 2 4\nBD: 1 3\n")]
    [InlineData("HH: 1 & 2 & 3 & 4 &o | %\nSN: 2 2a 4", "HH: 8ths 4&o | %\nSN: 2 a 4    | -\n")]
    [InlineData("meter 7/8\nSN: (3 e) 5>", "meter 7/8\nSN: (3 e) 5>\n")]
    [InlineData("SN: 2[5:1,3]", "SN: 2 2[5:3]\n")]
    public void The_canonical_form_is_the_shortest(string text, string canonical) =>
        CountWriter.Write(CountLines.Parse(text).Passage).ShouldBe(canonical);

    [Theory]
    [InlineData("SN: 1e&a", 1, 5, "1 e & a")]
    [InlineData("SN: 2&>4", 1, 5, "2 &> 4")]
    [InlineData("HH: 8ths\nST: R L", 2, 1, null)]
    [InlineData("lick 16t", 1, 1, null)]
    [InlineData("hello", 1, 1, null)]
    [InlineData("tempo 500", 1, 7, null)]
    [InlineData("meter 4/4\nmeter 3/4", 2, 1, null)]
    [InlineData("SN: 2>o", 1, 7, null)]
    public void A_problem_names_its_place_and_what_to_write(string text, int line, int column, string? fix)
    {
        var problem = CountLines.Parse(text).Problems.First();
        (problem.At.Line, problem.At.Column, problem.Fixes is [{ Edits: [var only] }] ? only.Text : null).ShouldBe((line, column, fix));
        problem.Message.Length.ShouldBeGreaterThan(20);
    }

    [Fact]
    public void A_pickup_bar_before_a_repeat_does_not_shorten_the_next()
    {
        var read = CountLines.Parse("pickup 4\nHH: 8ths | % | %");
        read.Passage.Strokes.Count(s => s.At >= new Tick(40320)).ShouldBe(16);
    }

    [Fact]
    public void A_span_is_cut_with_its_places_kept()
    {
        var passage = CountLines.Parse("HH: 8ths | % | %\nSN: 2 4 | 2 (2a) 4 | 2 4").Passage;
        var cut = Excerpt.Cut(passage, Excerpt.Place(passage, "2.2")!.Value, Excerpt.Place(passage, "2.4")!.Value);
        cut.Bars.ShouldBe(1);
        CountWriter.Write(cut).ShouldBe("HH: 2 & 3 &\nSN: 2 (a)\n");
    }

    private static IEnumerable<string?> Places(string text)
    {
        var passage = CountLines.Parse(text).Passage;
        return passage.Strokes.Select(s => CountNames.Place(s.At, Meter.CommonTime));
    }
}
