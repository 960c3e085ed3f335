namespace InnerCadence.Browser.Tests;

/// <summary>From what recurs to a named idea, from a place of the fingerprint to its bars, and a cycle bent into a ring.</summary>
[Collection(nameof(Site))]
public class DiscoveringAndComparing(Site site)
{
    [Fact]
    public void A_recurring_cell_becomes_an_idea()
    {
        var person = new Person(site.Browser(), site.Address).Opens("/studies/1/discovery");
        person.Clicks("Look");
        person.Reads("#job-state", "done");
        person.Opens("/studies/1/discovery").Reads("h2", "Nobody named these");
        var cells = person.SeesAll("table.list tbody tr").Count;
        person.Clicks("dismiss");
        person.Reads(".notice", "Dismissed for good");
        person.SeesAll("table.list tbody tr").Count.ShouldBeLessThanOrEqualTo(cells);
        person.Opens("/studies/1/discovery").Clicks("Name it");
        person.Types("Nickname", "found by itself");
        person.PressesControlAnd(OpenQA.Selenium.Keys.Enter);
        person.Reads("h1", "found by itself");
        person.SeesAll(".concordance tbody tr").Count.ShouldBeGreaterThanOrEqualTo(2);
    }

    [Fact]
    public void A_place_of_the_fingerprint_opens_its_bars()
    {
        var person = new Person(site.Browser(), site.Address).Opens("/studies/1/fingerprint");
        var cell = person.SeesAll("table.fingerprint td a")
            .First(a => a.GetDomAttribute("title")!.StartsWith("snare on the e of 3", StringComparison.Ordinal));
        var said = cell.GetDomAttribute("title")!;
        cell.Click();
        person.Reads("h2", "snare on the e of 3");
        var bars = person.SeesAll(".desk ul li a");
        var own = person.SeesAll(".desk h3")[0].Text;
        said.ShouldStartWith($"snare on the e of 3: in {own[(own.LastIndexOf(' ') + 1)..]} of");
        bars[0].Click();
        person.Sees("#strands svg");
    }

    [Fact]
    public void A_cycle_of_three_bars_is_told_and_bent_into_a_ring()
    {
        var person = new Person(site.Browser(), site.Address).Opens("/recordings/1/passages/new");
        person.Sees(".paper");
        person.Types("Count lines", "SN: 16ths 1> 1a> 2&> 3e> 4> 4a> | 16ths 1&> 2e> 3> 3a> 4&> | 16ths 1e> 2> 2a> 3&> 4e>");
        person.Reads("#size", "3 bars");
        person.Sees("#Input_Looped").SendKeys(" ");
        person.PressesControlAnd(OpenQA.Selenium.Keys.Enter);
        person.Clicks("Rhythm, form, skeleton");
        person.Reads("main", "4 in the time of 3 beats");
        person.Sees("svg.ring polygon.chosen").GetDomAttribute("points")!.Split(' ').Length.ShouldBe(16);
        person.Types("A cycle of", "3");
        person.Clicks("Against the bars");
        person.Reads("main", "times round");
    }

    [Fact]
    public void From_a_cell_of_the_matrix_to_the_sighting_to_its_sound()
    {
        var person = new Person(site.Browser(), site.Address).Opens("/studies/1/compare");
        person.Opens(person.Sees("svg.matrix a[aria-label^='cellar door in Kelp Road']").GetDomAttribute("href")!);
        person.Reads(".concordance tbody", "Kelp Road");
        person.Sees(".concordance tbody td:last-child a").Click();
        person.Reads("h1", "cellar door in Kelp Road");
        person.SeesAll("[data-part='play']")[1].Click();
        for (var i = 0; i < 2400 && person.SeesAll("[data-player]")[1].GetDomAttribute("data-sounded") is null; i++) Thread.Sleep(50);
        int.Parse(person.SeesAll("[data-player]")[1].GetDomAttribute("data-sounded")!, System.Globalization.CultureInfo.InvariantCulture)
            .ShouldBeGreaterThan(0);
    }
}
