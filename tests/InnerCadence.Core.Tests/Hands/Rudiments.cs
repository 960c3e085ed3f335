using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Hands;

namespace InnerCadence.Core.Tests.Hands;

/// <summary>hands.md, "Rudiments": the catalogue as data, and a recogniser that finds what it writes.</summary>
public class Rudiments
{
    private static string Found(string text) => string.Join("; ", RudimentFinder.In(CountLines.Parse(text).Passage).Select(f => f.Words));

    public static TheoryData<string> Names => [.. Rudiment.All.Select(r => r.Name)];

    [Theory, MemberData(nameof(Names))]
    public void Each_is_written_out_read_again_and_recognised_with_either_lead(string name)
    {
        var rudiment = Rudiment.Find(name)!;
        foreach (var left in (bool[])[false, true])
        {
            var passage = rudiment.AsPassage(left);
            var read = CountLines.Parse(CountWriter.Write(passage));
            read.Problems.ShouldBeEmpty();
            read.Passage.Strokes.ShouldBe(passage.Strokes);
            // What is as small as a flam wants more than two of it to be called one; some are the same when led by the other hand.
            if (rudiment.Strokes.Count * (rudiment.Turns ? 2 : 1) >= 4) RudimentFinder.In(passage).Select(f => f.Rudiment.Name)
                .ShouldContain(name);
        }
    }

    [Fact]
    public void Names_are_told_apart_and_found_in_any_case()
    {
        Rudiment.All.Select(r => r.Name).ShouldBeUnique();
        Rudiment.All.Count.ShouldBeGreaterThan(25);
        Rudiment.Find("PARADIDDLE").ShouldNotBeNull();
        Rudiment.Find("nothing").ShouldBeNull();
    }

    [Theory]
    [InlineData("SN: 1R eL &R aR 2L eR &L aL", "paradiddle, two rounds, 16ths, on snare")]
    [InlineData("SN: 1L eR &L aL 2R eL &R aR", "paradiddle, two rounds, 16ths, led by the left, on snare")]
    [InlineData("SN: 1R &L 2R &R", "paradiddle, 8ths, on snare")]
    [InlineData("T1: 1R &R\nFT: 1eL aR", "paradiddle, 16ths, on tom 1, floor tom")]
    [InlineData("SN: 1R eL\nBD: 1& a", "hand hand foot foot, 16ths, on snare, kick")]
    [InlineData("SN: 1R tL\nBD: l", "")]
    [InlineData("SN: 1R tL 2R tL\nBD: 1l 2l", "hand hand foot, two rounds, triplet 8ths, on snare, kick")]
    [InlineData("SN: 1 e & a", "")]
    [InlineData("SN: 1R eL &R aL 2R eL", "single strokes, six of them, 16ths, on snare")]
    public void A_stretch_has_its_rate_rounds_lead_and_drums(string text, string found) => Found(text).ShouldBe(found);

    [Fact]
    public void The_feet_under_a_figure_of_the_hands_do_not_matter() => Found("SN: 1R eL &R aR 2L eR &L aL\nBD: 1 2")
        .ShouldContain("paradiddle, two rounds");

    [Fact]
    public void A_roll_of_many_bars_is_one_stretch() =>
        RudimentFinder.In(CountLines.Parse("SN: 16ths" + string.Concat(Enumerable.Repeat(" | %", 62)) + "\nST: "
            + string.Concat(Enumerable.Repeat("RL", 504))).Passage).ShouldHaveSingleItem().Rounds.ShouldBe(1008);

    [Theory]
    [InlineData("nameless")]
    [InlineData("x; y; 4; R Q; same")]
    public void A_line_that_is_none_is_refused(string line) => Should.Throw<FormatException>(() => Rudiment.Read(line));
}
