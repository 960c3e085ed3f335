using System.Globalization;
using InnerCadence.Core.Playing;
using OpenQA.Selenium;

namespace InnerCadence.Browser.Tests;

/// <summary>A sound attached, looped at half speed; a session of stamps that outlives its server; the stamps located and written
/// down.</summary>
[Collection(nameof(Site))]
public class AnEveningOfListening(Site site)
{
    [Fact]
    public async Task From_a_file_to_a_rate_with_the_server_killed_in_between()
    {
        var browser = site.Browser();
        var file = Path.Combine(Path.GetTempPath(), $"side-{Guid.NewGuid():n}.wav");
        await File.WriteAllBytesAsync(file, Wav.Write([.. Enumerable.Range(0, 40 * 8000).Select(i => (float)(0.3 * Math.Sin(i * 0.3)))], 1,
            8000), TestContext.Current.CancellationToken);
        var person = new Person(browser, site.Address).Opens("/recordings/12/tempo");
        person.Types("Bar marks", "1 0:00\n17 0:32");
        person.Clicks("Save the marks");
        person.Opens("/recordings/12/listen");
        person.Sees("#file").SendKeys(file);
        person.Clicks("Attach it");
        person.Reads(".lead-line", "0:40");
        person.Sees("svg.longstrip .wave");

        // Half speed, in a loop.
        browser.ExecuteScript("const speed = document.querySelector('[data-part=speed]'); speed.value = 50; speed.dispatchEvent(new "
            + "Event('input')); document.getElementById('loop-from').value = '0:01'; document.getElementById('loop-to').value = "
            + "'0:01.4'; document.querySelector('[data-part=loop]').checked = true;");
        person.Hands.SendKeys("p").Perform();
        await Task.Delay(2500, TestContext.Current.CancellationToken);
        Convert.ToDouble(browser.ExecuteScript("return document.getElementById('audio').playbackRate")).ShouldBe(0.5);
        Eventually(() => Convert.ToDouble(browser.ExecuteScript("return document.getElementById('audio').currentTime")) is > 0.9 and < 1.6);

        // The same place at the same speed by its address, and what is changed stands in it.
        person.Opens("/recordings/12/listen?from=0:01&to=0:01.400&speed=50");
        person.Hands.SendKeys("p").Perform();
        await Task.Delay(2000, TestContext.Current.CancellationToken);
        Convert.ToDouble(browser.ExecuteScript("return document.getElementById('audio').playbackRate")).ShouldBe(0.5);
        Eventually(() => Convert.ToDouble(browser.ExecuteScript("return document.getElementById('audio').currentTime")) is > 0.9 and < 1.6);
        browser.ExecuteScript("const speed = document.querySelector('[data-part=speed]'); speed.value = 75; speed.dispatchEvent(new "
            + "Event('input'));");
        person.Here.ShouldEndWith("/recordings/12/listen?from=0:01&to=0:01.400&speed=75");

        // Tapping along starts two seconds before the place that is typed, not where the page began.
        person.Opens("/recordings/12/passages/new");
        person.Types("Clock time", "0:05");
        browser.ExecuteScript("document.getElementById('tapin').open = true; document.getElementById('tap-recording').checked = true;");
        person.Sees("#tap-start").Click();
        Eventually(() => Convert.ToDouble(browser.ExecuteScript("return document.getElementById('tap-sound').currentTime")) is > 3 and < 5);
        person.Sees("#tap-start").Click();
        person.Reads("#tap-said", "Nothing was tapped.");

        person.Opens("/recordings/12/listen");
        person.Clicks("Begin listening");
        var session = person.Here;
        person.Sees("[data-part=play]");
        browser.ExecuteScript("document.getElementById('audio').playbackRate = 4");
        person.Hands.SendKeys("p").Perform();
        await Task.Delay(800, TestContext.Current.CancellationToken);
        person.Hands.SendKeys("f").Perform();
        person.Reads("#made", "Fill");
        Eventually(() => person.Sees("#kept").Text == "All kept.");

        await site.KillAsync();
        person.Hands.SendKeys("1").Perform();
        person.Reads("#kept", "1 stamp is kept here and not yet by the server");
        person.Hands.SendKeys("p").Perform();
        browser.SwitchTo().NewWindow(WindowType.Tab);
        browser.SwitchTo().Window(browser.WindowHandles[0]).Close();
        browser.SwitchTo().Window(browser.WindowHandles[0]);
        await site.StartAsync();

        person.Opens(session);
        Eventually(() => person.Sees("#kept").Text == "All kept.");
        // On to the sixteenth second and no further.
        browser.ExecuteScript("const a = document.getElementById('audio'); a.addEventListener('timeupdate', () => { if (a.currentTime "
            + ">= 15.7 && !a.paused) document.querySelector('[data-part=play]').click(); }); a.playbackRate = 4;");
        person.Hands.SendKeys("p").Perform();
        Eventually(() => person.Sees("[data-part=plays]").Text == "Go on");
        person.Clicks("End the session");
        person.Reads(".notice", "The session is over");
        person.SeesAll("#stamps tbody tr").Count.ShouldBe(2, "the stamp before the crash, and the one after it");

        // Bars last two seconds: what was heard, from the start to where it was paused, is so many of them.
        var heard = person.SeesAll("#heard li").ShouldHaveSingleItem().Text.Split('–')[1].Split(':');
        var seconds = int.Parse(heard[0], CultureInfo.InvariantCulture) * 60 + double.Parse(heard[1], CultureInfo.InvariantCulture);
        person.Opens("/recordings/12");
        person.Reads("#searched", string.Create(CultureInfo.InvariantCulture, $"1 to {Math.Round(seconds / 2)}"));
        person.Opens(session);
        person.SeesAll("#stamps .btn")[0].Click();
        Eventually(() => person.Here.Contains("passages/new"));
        person.Value("Input_Bar").ShouldNotBeEmpty();
        person.Types("Count lines", "SN: 3 e & a 4 e & a");
        person.Clicks("Save");
        person.Opens(session);
        person.Reads("#stamps", "written down");
        File.Delete(file);
    }

    [Fact]
    public void A_file_that_is_no_sound_is_refused_in_a_sentence()
    {
        var file = Path.Combine(Path.GetTempPath(), $"not-{Guid.NewGuid():n}.wav");
        File.WriteAllText(file, "this is a letter, not a sound");
        var person = new Person(site.Browser(), site.Address).Opens("/recordings/14/listen");
        person.Sees("#file").SendKeys(file);
        person.Clicks("Attach it");
        person.Reads(".field-error", "This is no WAV file, whatever its name says. Nothing was attached.");
        File.Delete(file);
    }

    [Fact]
    public void Blind_listening_hides_who_plays_until_the_end()
    {
        var person = new Person(site.Browser(), site.Address).Opens("/studies/1/blind?seed=5&number=1");
        person.Reads("h1", "Is this the");
        foreach (var name in (string[])["Ilse Marrowby", "Tarred Rope", "Seven Gulls", "196", "197"]) person.Sees(
            "main").Text.ShouldNotContain(name);
        person.PressesToGo("y");
        person.Reads(".lead-line", "Excerpt 2 of");
        person.Opens("/studies/1/blind?seed=5&number=9999");
        person.Reads("table.list", "Ilse Marrowby");
    }

    private static void Eventually(Func<bool> holds)
    {
        for (var i = 0; i < 2400 && !holds(); i++) Thread.Sleep(50);
        holds().ShouldBeTrue();
    }
}
