using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;

namespace InnerCadence.Browser.Tests;

/// <summary>Every screen can be read and worked by everybody, in light and dark, and nothing on it is blocked by the policy.</summary>
[Collection(nameof(Site))]
public class EveryScreen(Site site)
{
    private static readonly string Axe = File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "axe", "axe.min.js"));

    public static TheoryData<string> Screens =>
    [
        "/", "/studies/new", "/studies/1", "/studies/1/edit", "/studies/1/recordings", "/studies/1/recordings/new", "/recordings/1",
            "/recordings/1/edit", "/recordings/3/listen", "/studies/1/blind?seed=7&number=2", "/studies/1/recordings/sheet",
        "/studies/1/recordings/import", "/studies/1/ensembles", "/ensembles/1", "/releases/1", "/studies/1/tables", "/files",
            "/files?study=1", "/studies/1/modulation", "/recordings/8", "/recordings/2/tempo", "/recordings/2/issues?clock=1:32.4",
        "/recordings/1/passages/new", "/studies/1/passages", "/passages/3", "/passages/14", "/passages/2/cut?from=2.3e&to=end",
            "/studies/1/ideas", "/ideas/1",
        "/ideas/2?show=near-miss", "/studies/1/trash", "/passages/16", "/ideas/1/edit", "/ideas/7", "/ideas/3?group=year",
            "/studies/1/like?text=SN:+3e+3a+4&near=true", "/settings", "/studies/1/discovery", "/studies/1/bars?player=1",
            "/studies/1/fingerprint?voice=SN&at=10080", "/passages/2/timing", "/studies/1/feel", "/ideas/1/look",
                "/recordings/1/commonest", "/studies/1/departing", "/studies/1/passages/begin",
                "/studies/1/passages?trait=flam-or-drag", "/studies/1/passages/recordings?trait=linear",
                "/studies/1/recurring", "/studies/1/ideas/named?text=SN:+2+4", "/studies/1/disagree", "/studies/1/ideas/together",
                "/sightings/10",
                 "/studies/1/compare", "/studies/1/compare?a=kind-live&b=kind-studio&cautious=true",
            "/ideas/1/where", "/studies/1/pair?one=22&two=23", "/passages/22/rhythm?cycle=7", "/passages/21/rhythm", "/sightings/1",
            "/studies/1/find?q=run", "/studies/1/claims", "/studies/1/claims/new", "/studies/1/claims/new?test=voice", "/claims/1",
            "/claims/4", "/claims/2/edit", "/ideas/7/players", "/studies/1/next", "/studies/1/article", "/studies/1/report",
            "/passages/3/hands", "/studies/1/rudiments", "/studies/1/rudiments/flam%20accent", "/studies/1/practice", "/practice/1",
            "/guide", "/keys", "/nowhere",
    ];

    [Theory, MemberData(nameof(Screens))]
    public void Has_no_barrier_in_light_and_dark(string address)
    {
        var browser = site.Browser();
        // What other tests left in the log is not this screen's.
        browser.Manage().Logs.GetLog(LogType.Browser);
        foreach (var scheme in (string[])["light", "dark"])
        {
            browser.ExecuteCdpCommand("Emulation.setEmulatedMedia",
                new()
                {
                    ["features"] = new object[] { new Dictionary<string,
                object> { ["name"] = "prefers-color-scheme", ["value"] = scheme } }
                });
            browser.Navigate().GoToUrl(site.Address + address);
            Violations(browser, scheme == "dark" ? "color-contrast" : null).ShouldBeEmpty($"{address}, {scheme}");
            browser.Manage().Logs.GetLog(LogType.Browser).Where(l => !l.Message.Contains("404")).Select(l => l.Message)
                .ShouldBeEmpty(address);
        }
    }

    [Theory, MemberData(nameof(Screens))]
    public void Fits_its_width(string address)
    {
        var browser = site.Browser();
        browser.Navigate().GoToUrl(site.Address + address);
        var overflow = browser.ExecuteScript("return document.documentElement.scrollWidth - document.documentElement.clientWidth");
        Convert.ToInt32(overflow).ShouldBe(0, address);
        // Nor does a table stand over what is beside it.
        ((IEnumerable<object>)browser.ExecuteScript(
            """
            return [...document.querySelectorAll("main table")].filter((table) => table.offsetParent && table.getBoundingClientRect().right > table.parentElement.getBoundingClientRect().right + 2
              && getComputedStyle(table.parentElement).overflowX === "visible").map((table) => table.outerHTML.slice(0, 120));
            """)!).Select(t => t.ToString()!).ShouldBeEmpty(address);
    }

    [Fact]
    public async Task Opened_files_and_archives_have_no_barrier()
    {
        var (browser, person) = (site.Browser(), new Person(site.Browser(), site.Address));
        person.Opens("/studies/1");
        person.Drops(("played.mid", Pads), ("groove.txt", "SN: 2 4\nBD: 1 3"u8.ToArray()), ("photo.png", [0x89, 0x50, 0]));
        person.Reads(".lead-line", "2 can be made into passages");
        person.Sees("#unknown-sounds");
        Violations(browser, null).ShouldBeEmpty("opened files");
        person.Opens("/recordings/3/passages/new");
        person.Drops(("played.mid", Pads));
        person.Sees("#unknown-sounds");
        Violations(browser, null).ShouldBeEmpty("an opened file");
        person.Opens("/");
        using var client = new HttpClient();
        person.Drops(("study.zip", await client.GetByteArrayAsync(site.Address + "/studies/1/tables?handler=Archive",
            TestContext.Current.CancellationToken)));
        person.Sees("#brings");
        Violations(browser, null).ShouldBeEmpty("an archive");
        person.Clicks("Merged into Ilse Marrowby, 1963–75");
        Violations(browser, null).ShouldBeEmpty("an archive to merge");
        person.Clicks("Forget it");
        person.Reads(".notice", "nothing was brought in");
    }

    /// <summary>A kick, and a note that General MIDI has no drum of ours for.</summary>
    private static byte[] Pads => [.. "MThd\0\0\0\u0006\0\0\0\u0001\0\u0060MTrk\0\0\0\u000C\0"u8, 0x99, 36, 90, 0x60, 27, 90, 0, 0xFF,
        0x2F, 0, 0];

    // In the dark only the colours are others.
    private static IReadOnlyList<string> Violations(ChromeDriver browser, string? rule)
    {
        browser.ExecuteScript(Axe);
        var found = browser.ExecuteAsyncScript(
            """
            const [rule, done] = arguments;
            axe.run(document, { runOnly: rule ? { type: "rule", values: [rule] } : ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa",
                "wcag22aa", "best-practice"] })
              .then(r => done(r.violations.map(v => `${v.id}: ${v.nodes.slice(0, 3).map(n => n.target + " " + n.failureSummary).join(" | ")}`)));
            """, rule);
        return [.. ((IEnumerable<object>)found!).Select(v => v.ToString()!)];
    }
}
