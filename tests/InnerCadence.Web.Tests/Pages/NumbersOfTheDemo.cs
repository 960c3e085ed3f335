using System.Text;
using System.Text.RegularExpressions;
using AngleSharp.Dom;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>Every number of the demo study, page by page, so that none moves unseen: tests/fixtures/README.md.</summary>
public partial class NumbersOfTheDemo(Application application) : IClassFixture<Application>
{
    private static readonly string File = Path.Combine(WorkingCopy.Root, "tests", "fixtures", "demo-numbers.txt");

    [GeneratedRegex(@"\s+")]
    private static partial Regex Blank { get; }

    [Fact]
    public async Task No_number_moves_unseen()
    {
        var said = new StringBuilder();
        for (var idea = 1; idea <= 8; idea++)
        {
            await TellAsync(said, $"/ideas/{idea}", "table.numbers tr", "section:last-of-type tbody tr");
            await TellAsync(said, $"/ideas/{idea}/where", "table.numbers tr", "main p", "main table.list tr");
            await TellAsync(said, $"/ideas/{idea}/players", "main table.list tr");
        }
        await TellAsync(said, "/studies/1", "ul.figures li", "table.list tr");
        await TellAsync(said, "/studies/1/compare", "main p", "main table.list tr");
        foreach (var side in (string[])["", "?a=kind-live&b=kind-studio"])
            await TellAsync(said, $"/studies/1/fingerprint{side}", "main p", "table.fingerprint tr", "main table.list tr");
        await TellAsync(said, "/studies/1/bars", "main p", "main table.list tr");
        await TellAsync(said, "/studies/1/claims", "main table.list tr", "main li");
        await TellAsync(said, "/studies/1/report", ".page-sheet p:not(.quiet)", ".page-sheet li", ".page-sheet tr");
        await TellAsync(said, "/studies/1/article", "a.live");
        await TellAsync(said, "/studies/1/next", "main p", "main tr");
        said.Append("# compare.csv\n").Append((await application.Client.GetStringAsync("/studies/1/compare?handler=Sheet&format=csv",
            TestContext.Current.CancellationToken)).ReplaceLineEndings("\n"));

        if (Environment.GetEnvironmentVariable("INNER_CADENCE_PIN") == "write") await System.IO.File.WriteAllTextAsync(File,
            said.ToString(), TestContext.Current.CancellationToken);
        var (now, pinned) = (said.ToString().Split('\n'),
            (await System.IO.File.ReadAllTextAsync(File, TestContext.Current.CancellationToken)).Split('\n'));
        var moved = now.Except(pinned).Select(line => "is  " + line).Concat(pinned.Except(now).Select(line => "was " + line)).ToList();
        moved.ShouldBeEmpty();
        now.ShouldBe(pinned);
    }

    private async Task TellAsync(StringBuilder said, string address, params string[] parts)
    {
        said.Append("# ").Append(address).Append('\n');
        var page = await application.PageAsync(address);
        foreach (var part in parts)
            foreach (var element in page.QuerySelectorAll(part))
                if (Words(element) is { Length: > 0 } words) said.Append(words).Append('\n');
    }

    private static string Words(IElement element)
    {
        var cells = element.QuerySelectorAll("th, td").Select(cell => cell.TextContent).ToList();
        return Blank.Replace(cells.Count > 0 ? string.Join(" | ", cells.Select(c => c.Trim())) : element.TextContent, " ").Trim();
    }
}
