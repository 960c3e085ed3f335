using System.Globalization;
using System.Text.RegularExpressions;
using AngleSharp.Html.Dom;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>Behind every count is the list of exactly what it counts, on every page, also where something was heard by hand, judged a near
/// miss, or lies outside.</summary>
public sealed partial class EveryNumberOpensWhatItCounts : IClassFixture<Application>, IAsyncLifetime
{
    private readonly Application application;

    public EveryNumberOpensWhatItCounts(Application application) => this.application = application;

    [GeneratedRegex(@"(\d+) places? in (\d+) recording")]
    private static partial Regex Listed { get; }

    [GeneratedRegex(
        @"^(\d+)(?: of \d+)?(?: (?:in \d+ .*|searched recordings?|confirmed|outside what was searched|outside|near misses|wait for judgement|rejected|and \d+ outside what was searched))?$")]
    private static partial Regex Count { get; }

    public async ValueTask InitializeAsync()
    {
        foreach (var (idea, recording, bar) in new[] { (1, 4, 100), (1, 5, 60), (3, 1, 41), (3, 5, 100), (4, 18, 200), (1, 3, 24) })
            await application.SendAsync(await application.PageAsync($"/ideas/{idea}"), $"/ideas/{idea}?handler=Heard",
                ("Typed.Recording", $"{recording}"), ("Typed.Bar", $"{bar}"));
        for (var idea = 1; idea <= 8; idea += 3)
        {
            var page = await application.PageAsync($"/ideas/{idea}?show=waiting");
            if (page.QuerySelector(".concordance form") is { } form) await application.SendAsync(page, form.GetAttribute("action")!,
                ("judgement", "Confirmed"));
        }
    }

    public ValueTask DisposeAsync() => ValueTask.CompletedTask;

    public static TheoryData<string> Pages =>
    [
        "/ideas/1", "/ideas/3", "/ideas/4", "/ideas/7", "/ideas/1/where", "/ideas/3/where", "/ideas/4/where", "/ideas/2/where",
            "/ideas/3/where?cautious=true", "/ideas/1/players", "/studies/1", "/studies/1/ideas",
        "/studies/1/compare", "/studies/1/compare?a=kind-live&b=kind-studio", "/studies/1/compare?recordingKind=live&from=1966",
            "/studies/1/compare?cautious=true&idea=3", "/studies/1/claims", "/studies/1/report", "/studies/1/article",
    ];

    [Theory, MemberData(nameof(Pages))]
    public async Task The_list_behind_a_number_is_as_long_as_it_says(string address)
    {
        var page = await application.PageAsync(address);
        var (checkedNumbers, seen) = (0, new HashSet<string>());
        foreach (var link in page.QuerySelectorAll("a[href*='show=']").OfType<IHtmlAnchorElement>())
        {
            var (href, text) = (link.GetAttribute("href")!.Split('#')[0], link.TextContent.Trim());
            if (Count.Match(text) is not { Success: true } count || !seen.Add(href + text)) continue;
            var n = int.Parse(count.Groups[1].Value, CultureInfo.InvariantCulture);
            var (places, recordings) = await ListedAsync(href);
            (href.Contains("in=searched") ? recordings : places).ShouldBe(n, $"{text} → {href}");
            checkedNumbers++;
        }
        if (!address.Contains("players")) checkedNumbers.ShouldBeGreaterThan(0);
    }

    /// <summary>The matrix says in words how many; so does each bar of the profile of its whole.</summary>
    [Fact]
    public async Task A_cell_of_the_matrix_opens_as_many_as_it_says()
    {
        var page = await application.PageAsync("/studies/1/compare");
        var cells = page.QuerySelectorAll("svg.matrix a[aria-label]").ToList();
        foreach (var cell in cells.Where((c, i) => i % 5 == 0 || c.GetAttribute("aria-label")!.Contains(": 1 in")
            || c.GetAttribute("aria-label")!.Contains("outside")))
        {
            var said = cell.GetAttribute("aria-label")!;
            var n = Regex.Match(said, @": (\d+) in ") is { Success: true } found
                ? int.Parse(found.Groups[1].Value, CultureInfo.InvariantCulture) : 0;
            (await ListedAsync(cell.GetAttribute("href")!.Split('#')[0])).Places.ShouldBe(n, said);
        }
    }

    [Fact]
    public async Task The_splits_of_every_idea_have_the_sum_of_its_headline()
    {
        for (var idea = 1; idea <= 8; idea++)
            foreach (var way in (string[])["", "?cautious=true"])
            {
                var page = await application.PageAsync($"/ideas/{idea}/where{way}");
                if (page.QuerySelector(".lead-line a") is not { } whole) continue;
                var n = int.Parse(whole.TextContent.Split(' ')[0], CultureInfo.InvariantCulture);
                var splits = page.QuerySelectorAll("h2").Where(h => h.TextContent.StartsWith("By ", StringComparison.Ordinal)).ToList();
                splits.Select(h => h.TextContent).ShouldBe(["By beat of the bar", "By bar of the phrase of four", "By section", "By kind",
                    "By year", "By tempo", "By ensemble"]);
                foreach (var split in splits)
                    split.NextElementSibling!.QuerySelectorAll("tbody tr td:nth-child(2)")
                        .Sum(c => int.Parse(c.TextContent.Trim(), CultureInfo.InvariantCulture))
                        .ShouldBe(n, $"{idea}{way}, {split.TextContent}");
            }
    }

    [Fact]
    public async Task A_place_of_the_fingerprint_opens_its_bars_on_either_side()
    {
        var page = await application.PageAsync("/studies/1/fingerprint");
        foreach (var cell in page.QuerySelectorAll("table.fingerprint td a").Where((_, i) => i % 7 == 0))
        {
            var numbers = Regex.Matches(cell.GetAttribute("title")!, @"(\d+) of (\d+)")
                .Select(m => (With: int.Parse(m.Groups[1].Value, CultureInfo.InvariantCulture),
                Of: int.Parse(m.Groups[2].Value, CultureInfo.InvariantCulture))).ToList();
            var without = cell.GetAttribute("title")!.StartsWith("no ", StringComparison.Ordinal);
            var opened = await application.PageAsync(cell.GetAttribute("href")!);
            var listed = opened.QuerySelectorAll("ul.places").Sum(u => u.QuerySelectorAll("li").Length);
            listed.ShouldBe(numbers.Sum(n => without ? n.Of - n.With : n.With), cell.GetAttribute("title"));
        }
    }

    [Fact]
    public async Task What_was_heard_by_hand_is_a_row_of_the_list_and_of_its_export()
    {
        var page = await application.PageAsync("/ideas/1?show=confirmed&player=1");
        page.QuerySelectorAll(".concordance tr.place").ShouldContain(r => r.TextContent.Contains("heard, not written down"));
        var csv = await application.Client.GetStringAsync("/ideas/1?show=confirmed&player=1&handler=Sheet&format=csv",
            TestContext.Current.CancellationToken);
        csv.ShouldContain("Low Tide Shuffle,,1967,,100,,,heard,");
        csv.Split("\r\n", StringSplitOptions.RemoveEmptyEntries).Length.ShouldBe(page.QuerySelectorAll(".concordance tr.place").Length + 1);
    }

    private async Task<(int Places, int Recordings)> ListedAsync(string address)
    {
        var page = await application.PageAsync(address);
        var listed = Listed.Match(page.QuerySelector("#shown")!.TextContent.Replace("\u202F", ""));
        var (places, recordings) = (int.Parse(listed.Groups[1].Value, CultureInfo.InvariantCulture),
            int.Parse(listed.Groups[2].Value, CultureInfo.InvariantCulture));
        page.QuerySelectorAll(".concordance tr.place").Length.ShouldBe(Math.Min(places, 40), address);
        return (places, recordings);
    }
}
