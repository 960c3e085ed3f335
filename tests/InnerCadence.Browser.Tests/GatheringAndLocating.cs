using OpenQA.Selenium;

namespace InnerCadence.Browser.Tests;

/// <summary>Recordings brought in, mapped in one line, tapped and marked.</summary>
[Collection(nameof(Site))]
public class GatheringAndLocating(Site site)
{
    [Fact]
    public void A_table_is_imported_with_a_look_before_and_its_bad_rows_after()
    {
        var file = Path.Combine(Path.GetTempPath(), $"recordings-{Guid.NewGuid():n}.csv");
        File.WriteAllText(file, "Song;Band;Year;BPM\nImported One;The Drift;1971;120\nImported Two;The Drift;never;99\nTarred Rope;The "
            + "Saltgate Five;1965-03-02;\n;The Drift;1972;88\n");
        var person = new Person(site.Browser(), site.Address).Opens("/studies/1/recordings/import");
        person.Sees("#file").SendKeys(file);
        person.Clicks("Look at it");
        person.Reads("#found", "3 rows can be read");
        person.Reads("#found", "1 cannot");
        person.Reads("#doubtful", "‘never’ is no date");
        person.Clicks("Import 3 rows");
        person.Reads("#job-said", "3 added, 0 merged into those that were there, 0 skipped; 1 could not be read.");
        person.Clicks("What became of the file");
        person.Reads("main", "The rows that could not be read");
        person.Opens("/studies/1/recordings?q=imported");
        person.Reads("table.list", "Imported One");
        person.Reads("table.list", "Imported Two");
        person.SeesAll("table.list tbody tr").Count.ShouldBe(2);
        File.Delete(file);
    }

    [Fact]
    public void Recordings_are_typed_one_under_the_other_without_leaving_the_keyboard()
    {
        var person = new Person(site.Browser(), site.Address).Opens("/studies/1/recordings/sheet");
        person.Hands.SendKeys("Sheet One" + Keys.Tab + "take 1" + Keys.Tab + Keys.Tab + "The Quay" + Keys.Tab + Keys.Tab + "1971"
            + Keys.Enter).Perform();
        person.Hands.SendKeys("\"" + Keys.Tab + "take 2" + Keys.Tab + Keys.Tab + "\"" + Keys.Tab + Keys.Tab + "someday").Perform();
        person.PressesControlAnd(Keys.Enter);
        person.Reads(".field-error", "‘someday’ is no date");
        var wrong = person.Sees("[aria-invalid]");
        wrong.Clear();
        wrong.SendKeys("1972");
        person.PressesControlAnd(Keys.Enter);
        person.Reads(".notice", "2 recordings are added");
        person.Opens("/studies/1/recordings?q=sheet");
        person.SeesAll("table.list tbody tr").Select(r => r.Text.Contains("The Quay")).ShouldBe([true, true]);
    }

    [Fact]
    public void A_form_in_one_line_becomes_sections_and_a_miscount_is_told()
    {
        var person = new Person(site.Browser(), site.Address).Opens("/recordings/8/tempo");
        person.Types("Bar marks", "1 0:00\n9 0:15\n17 0:30\n25 0:46.875\n33 1:01.875\n41 1:16.875");
        person.Clicks("Save the marks");
        person.Reads(".near", "4 beats more than the bars");
        person.Opens("/recordings/8");
        person.Types("Form", "intro 8, verse 8, chorus 8, verse, stop of 2 beats");
        person.Clicks("Save the form");
        person.Reads(".field-error", "‘verse’ is no section");
        person.Types("Form", "intro 8, verse 8, chorus 8, verse 16, stop of 2 beats");
        person.Clicks("Save the form");
        person.Reads(".notice", "5 sections, 41 bars");
        person.Reads(".near", "The chorus, up to bar 25, is 4 beats longer on the clock than its bars: one bar too few?");
        person.Reads("svg.longstrip", "verse 2");

        // The strip comes nearer by key and says so in the address.
        person.Sees("#strip").SendKeys("+");
        Eventually(() => person.Here.Contains("from="));
        person.Sees("#strip").SendKeys(Keys.ArrowRight);
        person.Opens("/recordings/8/tempo?place=25.3");
        person.Reads("#answer", "bar 25, count 3, verse 2, bar 1 of 16, 0:47.8");
    }

    [Fact]
    public void A_tempo_is_tapped_by_key_and_bars_are_marked_along_a_watch()
    {
        var browser = site.Browser();
        var person = new Person(browser, site.Address).Opens("/recordings/21/tempo");
        browser.ExecuteScript("window.now = 0; performance.now = () => window.now;");
        for (var tap = 0; tap < 6; tap++)
        {
            browser.ExecuteScript("window.now += 500");
            person.Hands.SendKeys("t").Perform();
        }
        Eventually(() => person.Sees("#tapped").Text == "120.0");
        person.Reads("#tap-words", "6 taps");
        for (var bar = 0; bar < 3; bar++)
        {
            person.Hands.SendKeys(" ").Perform();
            browser.ExecuteScript("window.now += 1500");
        }
        person.Value("Marks").ShouldBe("1 0:00.000\n2 0:01.500\n3 0:03.000");
        person.Clicks("Save the marks");
        person.Reads(".notice", "3 bars are marked");
        person.Reads("main", "160.0");

        // Now either of clock and bar is enough.
        person.Opens("/recordings/21/passages/new");
        person.Types("First bar", "3\t");
        Eventually(() => person.Value("Input_StartsAt") == "0:03");
    }

    private static void Eventually(Func<bool> holds)
    {
        for (var i = 0; i < 2400 && !holds(); i++) Thread.Sleep(50);
        holds().ShouldBeTrue();
    }
}
