using InnerCadence.Web.Pages.Shared;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>A page of a list is asked for by the row beside it.</summary>
public class ListsByTheirRows
{
    private static PageOfList<int> Of(IEnumerable<int> all, string? after = null, string? before = null, int number = 1) =>
        PageOfList<int>.Of([.. all], n => $"{n}", 10, after, before, number);

    [Fact]
    public void Following_and_preceding_leads_through_every_row_once_and_back()
    {
        var all = Enumerable.Range(1, 37).ToList();
        var (seen, page) = (new List<int>(), Of(all));
        while (true)
        {
            seen.AddRange(page.Rows);
            if (page.After is not { } last) break;
            page = Of(all, after: last);
        }
        seen.ShouldBe(all);
        page.Span.ShouldBe("31 to 37");
        Of(all, before: page.Before).Rows.ShouldBe(Enumerable.Range(21, 10));
    }

    [Fact]
    public void A_row_that_came_before_the_page_moves_nothing_out_of_sight() =>
        Of(Enumerable.Range(0, 31), after: "10").Rows.ShouldBe(Enumerable.Range(11, 10));

    [Fact]
    public void Where_the_row_is_gone_the_number_of_the_page_helps()
    {
        Of(Enumerable.Range(1, 30), after: "77", number: 2).Rows[0].ShouldBe(11);
        Of(Enumerable.Range(1, 30), number: 99).Rows[0].ShouldBe(21);
    }

    [Fact]
    public void Nothing_follows_the_last_row_and_an_empty_list_is_one_page()
    {
        Of(Enumerable.Range(1, 20), after: "20").Rows[0].ShouldBe(11);
        Of([]).IsWhole.ShouldBeTrue();
    }
}
