using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Ideas;

/// <summary>Passages that adjoin are read as one.</summary>
public class Stretches
{
    private static (Passage, int?) At(int? bar, string text, bool looped = false) =>
        (CountLines.Parse(text).Passage with { Looped = looped }, bar);

    private static Matcher Pick => new(new(CountLines.Parse("SN: 4& | -\nFT: - | 1\n").Passage, null, null, Rules.Default));

    [Fact]
    public void A_figure_over_the_bar_line_between_two_passages_is_found_in_the_first()
    {
        (Passage, int?)[] passages = [At(9, "FT: 1\n"), At(5, "BD: 1 | %\n"), At(7, "BD: 1 | -\nSN: - | 4&\n")];
        var stretches = Stretch.Of(passages);
        stretches.Select(s => string.Join(' ', s.Parts.Select(p => p.Index))).ShouldBe(["1 2 0"]);
        stretches[0].Passage.Bars.ShouldBe(5);
        var (index, sighting) = stretches[0].Find(Pick).Single();
        (index, sighting.Start.Value, sighting.Verdict).ShouldBe((2, 40320 + 35280, Verdict.Exact));
        sighting.End.Value.ShouldBeGreaterThan(2 * 40320, "it ends in the passage that follows");
    }

    [Fact]
    public void A_gap_a_loop_another_feel_or_a_bar_that_is_not_known_keep_passages_apart()
    {
        Stretch.Of([At(1, "SN: 1\n"), At(3, "SN: 1\n")]).Count.ShouldBe(2);
        Stretch.Of([At(1, "SN: 1\n", looped: true), At(2, "SN: 1\n")]).Count.ShouldBe(2);
        Stretch.Of([At(1, "SN: 1\n"), At(2, "feel swing\nSN: 1\n")]).Count.ShouldBe(2);
        Stretch.Of([At(null, "SN: 1\n"), At(null, "SN: 1\n")]).Count.ShouldBe(2);
        Stretch.Of([At(1, "SN: 1\n"), At(1, "SN: 2\n"), At(2, "SN: 3\n")]).Select(s => s.Parts.Count).ShouldBe([2, 1]);
    }

    [Fact]
    public void Meters_and_places_stay_what_they_were()
    {
        var joined = Stretch.Of([At(1, "meter 7/8\nSN: 1 | 3\nBD: ? | 1\n"), At(3, "SN: 2 4\n")]).Single();
        joined.Passage.Meters.ToString().ShouldBe("7/8 7/8 4/4");
        joined.Passage.Unheard.ShouldBe([(0, Voice.Kick)]);
        var found = joined.Find(new(new(CountLines.Parse("SN: 2 4\n").Passage, null, null, Rules.Default)))
            .Where(f => f.Sighting.Verdict == Verdict.Exact).Single();
        (found.Index, found.Sighting.Start.Value).ShouldBe((1, 10080));
    }

    [Fact]
    public void Alone_a_passage_finds_what_it_always_found()
    {
        var passage = CountLines.Parse("SN: 1 e & a 2 | 4& \nFT: - | 1\n").Passage;
        Stretch.Of([(passage, 1)]).Single().Find(Pick).Select(f => f.Sighting.Summary)
            .ShouldBe(Pick.FindIn(passage).Select(s => s.Summary));
    }
}
