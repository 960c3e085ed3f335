using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Discovery;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Discovery;

public class CellsAreTold
{
    private static Tick Eighth(int n) => new(n * Tick.PerQuarter / 2);

    private static ToldCell Told(string text, int from, int to, bool proportional = false, bool looped = false) =>
        new(CountLines.Parse(text).Passage with { Looped = looped }, new(0, Eighth(from), Eighth(to)),
            CellFacets.Usual with { Proportional = proportional });

    [Fact]
    public void A_cell_says_its_count_its_bar_and_the_span_that_holds_it()
    {
        var cell = Told("SN: 2 4 | 2 3 & 4\nBD: 1 3 | 1", 10, 13);
        (cell.Count, cell.Bar, cell.Span).ShouldBe(("2", 1, ("2.2", "2.3a")));
        Told("SN: 4\nBD: 1", 6, 8, looped: true).Span.To.ShouldBe("end");
    }

    [Fact]
    public void The_key_is_the_same_wherever_the_cell_stands_and_at_double_rate_where_gaps_are_ratios()
    {
        Told("SN: 1 & 2", 0, 2).Key.ShouldBe(Told("SN: 3 & 4", 4, 6).Key);
        Told("SN: 1 & 2", 0, 2).Key.ShouldNotBe(Told("SN: 1 2 3", 0, 4).Key);
        Told("SN: 1 & 2", 0, 2, proportional: true).Key.ShouldBe(Told("SN: 1 2 3", 0, 4, proportional: true).Key);
    }

    [Fact]
    public void Only_what_the_cell_sees_stands_in_its_text() => Told("HH: 8ths\nSN: 2 4\nBD: 1 3", 0, 6).Text.ShouldNotContain("HH");

    [Fact]
    public void A_cell_over_the_join_of_a_loop_is_one_row() =>
        CountLines.Parse(Told("SN: 4\nBD: 1", 6, 8, looped: true).Text).Passage.Strokes.Count.ShouldBe(2);
}
