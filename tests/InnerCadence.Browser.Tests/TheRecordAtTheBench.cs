using System.Globalization;
using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;

namespace InnerCadence.Browser.Tests;

/// <summary>The record and what is written, on one clock, while the hands stay in the text.</summary>
[Collection(nameof(Site))]
public class TheRecordAtTheBench(Site site)
{
    /// <summary>Everything that starts on the audio clock, as the page has it played.</summary>
    private const string Watching =
        """
        if (!window.started) {
        window.started = [];
        const begin = AudioBufferSourceNode.prototype.start;
        AudioBufferSourceNode.prototype.start = function (when, offset) {
          window.started.push({ when, offset: offset ?? 0, loop: this.loop, loopEnd: this.loopEnd, length: this.buffer.duration, now: this.context.currentTime });
          window.clock = this.context;
          return begin.apply(this, arguments);
        };
        window.faults = [];
        window.addEventListener("error", (event) => window.faults.push(event.message));
        window.addEventListener("unhandledrejection", (event) => window.faults.push(String(event.reason)));
        }
        """;

    private static bool simulated;

    private (ChromeDriver Browser, Person Person) AtHome()
    {
        var browser = site.Browser();
        var person = new Person(browser, site.Address);
        if (!simulated)
        {
            person.Opens("/recordings/2/listen");
            person.Clicks("Make a simulated sound from the passages");
            Until(() => person.Opens("/recordings/2/listen").SeesAll("svg.longstrip .wave").Count > 0, 40);
            simulated = true;
        }
        browser.ExecuteCdpCommand("Page.addScriptToEvaluateOnNewDocument", new() { ["source"] = Watching });
        return (browser, person);
    }

    private static IReadOnlyCollection<object> Faults(ChromeDriver browser) =>
        (IReadOnlyCollection<object>)browser.ExecuteScript("return window.faults")!;

    private static void Alt(ChromeDriver browser, string key) =>
        new OpenQA.Selenium.Interactions.Actions(browser).KeyDown(Keys.Alt).SendKeys(key).KeyUp(Keys.Alt).Perform();

    private static double Number(ChromeDriver browser, string script) =>
        Convert.ToDouble(browser.ExecuteScript("return " + script), CultureInfo.InvariantCulture);

    private static IReadOnlyList<(double When, double Offset, bool Loop, double LoopEnd, double Length)> Started(ChromeDriver browser) =>
        [.. ((IReadOnlyCollection<object>)browser.ExecuteScript("return window.started")!)
            .Cast<IReadOnlyDictionary<string, object>>().Select(s => (D(s["when"]), D(s["offset"]), (bool)s["loop"], D(s["loopEnd"]),
                D(s["length"])))];

    private static double D(object number) => Convert.ToDouble(number, CultureInfo.InvariantCulture);

    [Fact]
    public void Record_and_written_are_one_round_long_in_step_and_changed_over_without_a_gap()
    {
        var (browser, person) = AtHome();
        person.Opens("/passages/6");
        var text = person.Sees("#Input_Text");
        var typed = text.GetDomProperty("value");
        text.Click();
        Alt(browser, "p");
        person.Sees("[data-state=playing]");
        Until(() => person.Sees("[data-part=place]").Text.Length > 0);
        person.Sees("[data-part=place]").Text.ShouldContain("bar 20");
        Until(() => Number(browser, "clock.currentTime - started.find(s => s.loop).when") > 3.2, 12);
        var all = Started(browser);
        // One source holds the record's loop: its end is the bar's length, whatever timers do.
        var record = all.Single(s => s.Loop);
        record.LoopEnd.ShouldBe(2.2662, 0.001);
        record.Length.ShouldBe(record.LoopEnd, 0.001);
        // The strokes of the second round start on the same grid as those of the first, to the sample.
        var strokes = all.Where(s => !s.Loop).Select(s => s.When - record.When).Where(t => t > 0).ToList();
        strokes.ShouldContain(t => t > record.LoopEnd, "a second round was played");
        foreach (var late in strokes.Where(t => t > record.LoopEnd + 0.01 && t < record.LoopEnd * 1.4))
            strokes.Min(t => Math.Abs(t + record.LoopEnd - late)).ShouldBeLessThan(0.001);
        person.Sees("[data-player]").GetDomAttribute("data-heard").ShouldBe("record");
        Alt(browser, "w");
        Until(() => person.Sees("[data-player]").GetDomAttribute("data-heard") == "written");
        Alt(browser, "i");
        Until(() => person.Sees("[data-player]").GetDomAttribute("data-heard") == "turn");
        Alt(browser, "r");
        Started(browser).Count(s => s.Loop).ShouldBe(1, "nothing was started anew to change over");
        text.GetDomProperty("value").ShouldBe(typed, "keys inside the text type nothing");
        browser.SwitchTo().ActiveElement().GetDomAttribute("id").ShouldBe("Input_Text");
        Alt(browser, "p");
        person.Sees("[data-state=still]");
    }

    [Fact]
    public void Speed_changes_where_it_is_and_is_remembered_and_a_loop_of_one_bar_goes_on_and_back()
    {
        var (browser, person) = AtHome();
        person.Opens("/passages/6");
        person.Sees("#Input_Text").Click();
        Alt(browser, "p");
        person.Sees("[data-state=playing]");
        for (var i = 0; i < 10; i++) Alt(browser, "-");
        Until(() => Started(browser).LastOrDefault(s => s.Loop).LoopEnd is > 4.5 and < 4.6, 15);
        person.Sees("[data-part=said]").Text.ShouldBe("50 %");
        // The bar after is not written here; the record is heard there all the same.
        Alt(browser, "k");
        Until(() => person.Sees("[data-part=place]").Text.Contains("bar 21", StringComparison.Ordinal), 15);
        Alt(browser, "j");
        Until(() => person.Sees("[data-part=place]").Text.Contains("bar 20", StringComparison.Ordinal), 15);
        Alt(browser, "p");
        person.Opens("/passages/5");
        person.Sees("[data-part=said]").Text.ShouldBe("50 %", "as it was heard last");
        for (var i = 0; i < 10; i++) Alt(browser, "=");
        person.Sees("[data-part=said]").Text.ShouldBe("100 %");
    }

    [Fact]
    public void What_is_typed_sounds_in_the_next_round_and_a_tab_behind_another_keeps_its_rounds()
    {
        var (browser, person) = AtHome();
        person.Opens("/passages/6");
        var text = person.Sees("#Input_Text");
        text.Click();
        Alt(browser, "u");
        Alt(browser, "p");
        person.Sees("[data-state=playing]");
        var before = Number(browser, "started.length");
        text.SendKeys(Keys.Control + Keys.End);
        text.SendKeys("\nCB: 1 e & a 2 e & a 3 e & a 4 e & a");
        Until(() => Number(browser, "started.length") > before + 40, 15);
        browser.SwitchTo().NewWindow(WindowType.Tab);
        Thread.Sleep(6000);
        browser.SwitchTo().Window(browser.WindowHandles[0]);
        // All strokes that fell due behind the other tab were started in time, and none in a heap.
        Number(browser, "started.filter(s => s.when < s.now - 0.02).length").ShouldBe(0);
        var cow = Number(browser, "started.length");
        cow.ShouldBeGreaterThan(before + 100);
        browser.SwitchTo().Window(browser.WindowHandles[1]).Close();
        browser.SwitchTo().Window(browser.WindowHandles[0]);
        Alt(browser, "p");
        Alt(browser, "r");
        Faults(browser).ShouldBeEmpty();
    }

    [Fact]
    public void A_passage_that_was_empty_when_it_was_opened_plays_the_record_as_soon_as_its_place_is_known()
    {
        var (browser, person) = AtHome();
        person.Opens("/recordings/2/passages/new");
        browser.ExecuteScript("document.getElementById('Input_Text').value = ''");
        person.Reads("[data-part=told]", "Say at which clock time it starts");
        person.Types("First bar", "20");
        person.Sees("#Input_Text").Click();
        Until(() => person.Sees("[data-part=told]").Text.Length == 0);
        Alt(browser, "p");
        person.Sees("[data-state=playing]");
        Until(() => person.Sees("[data-part=place]").Text.Contains("bar 2", StringComparison.Ordinal));
        person.Sees("#Input_Text").SendKeys("SN: 2 4 | 2 4");
        Until(() => Number(browser, "started.filter(s => !s.loop).length") > 2, 15);
        Alt(browser, "p");
        Faults(browser).ShouldBeEmpty();
        browser.ExecuteScript("for (const key of Object.keys(localStorage)) if (key.startsWith('inner-cadence draft')) "
            + "localStorage.removeItem(key)");
    }

    [Fact]
    public void From_a_place_that_was_heard_to_saved_and_back_there_takes_three_keys_that_are_no_music()
    {
        var (browser, person) = AtHome();
        person.Opens("/recordings/2/listen?from=1:00&speed=50");
        Until(() => person.Sees("[data-part=place]").Text.StartsWith("1:00", StringComparison.Ordinal));
        person.Reads("[data-part=place]", "bar 27");
        person.Hands.SendKeys("2").Perform();
        Until(() => person.Here.Contains("to=", StringComparison.Ordinal));
        var listening = person.Here;
        person.PressesToGo("w");
        person.Here.ShouldStartWith("/recordings/2/passages/new?at=");
        person.Value("Input_Bar").ShouldBe("27");
        person.Value("Input_Section").ShouldNotBeEmpty();
        var text = person.Sees("#Input_Text");
        text.GetDomProperty("value")!.ShouldContain("tempo 106");
        text.SendKeys(Keys.Control + Keys.End);
        text.SendKeys("SN: 2 4 | 2 4");
        person.PressesControlAnd(Keys.Enter);
        person.Reads(".notice", "Written down: groove at bar 27.");
        person.Here.ShouldBe(listening, "the same place, loop and speed");
        person.Sees("[data-part=loop]").GetDomProperty("checked").ShouldBe("True", StringCompareShould.IgnoreCase);
        person.Hands.SendKeys("p").Perform();
        Until(() => browser.ExecuteScript("return document.getElementById('strip').dataset.playing") is "loop", 15);
        Until(() => Number(browser, "started.find(s => s.loop).loopEnd") > 8, 15);
        person.Hands.SendKeys("p").Perform();
    }

    [Fact]
    public void Saving_while_it_plays_stops_nothing_and_the_place_is_kept_over_a_page_that_is_loaded_again()
    {
        var (browser, person) = AtHome();
        person.Opens("/passages/5");
        var text = person.Sees("#Input_Text");
        text.Click();
        Alt(browser, "p");
        person.Sees("[data-state=playing]");
        text.SendKeys(Keys.Control + Keys.End);
        text.SendKeys("\nCB: 1");
        new OpenQA.Selenium.Interactions.Actions(browser).KeyDown(Keys.Control).SendKeys(Keys.Enter).KeyUp(Keys.Control).Perform();
        person.Reads("#said", "Saved.");
        person.Sees("[data-player]").GetDomAttribute("data-state").ShouldBe("playing");
        // The next save begins from what was saved now.
        text.SendKeys(" 3");
        new OpenQA.Selenium.Interactions.Actions(browser).KeyDown(Keys.Control).SendKeys(Keys.Enter).KeyUp(Keys.Control).Perform();
        Until(() => browser.ExecuteScript("return Object.keys(localStorage).filter(key => key.includes('draft "
            + "/passages/5')).length") is 0L);
        Alt(browser, "m");
        Alt(browser, "m");
        Alt(browser, "k");
        Alt(browser, "p");
        person.Here.ShouldBe("/passages/5?loop=1+1");
        person.Opens("/passages/5");
        person.Sees("#Input_Text").GetDomProperty("value")!.ShouldEndWith("CB: 1 3");
        person.Sees("[data-part=span]").GetDomProperty("value").ShouldBe("1");
        Alt(browser, "m");
        browser.ExecuteScript("document.querySelector('[data-part=span]').value = ''; "
            + "document.querySelector('[data-part=span]').dispatchEvent(new Event('change'))");
    }

    [Fact]
    public void Own_hands_become_a_recording_with_its_bars_marked()
    {
        var (browser, person) = AtHome();
        person.Opens("/passages/6/own-hands");
        person.Sees("#take").Click();
        person.Sees("[data-state=playing]");
        person.Sees("[data-player]").GetDomAttribute("data-heard").ShouldNotBe("", "the record is there to play along with");
        Until(() => Started(browser).Any(s => s.Loop));
        // A bar of click, then two rounds and a half.
        Thread.Sleep(8500);
        person.Sees("#take").Click();
        person.Reads("#take-said", "Kept.");
        person.Sees("#heard-take").Click();
        person.Reads("h1", "Own hands: Tarred Rope, take 3, bar 20");
        Until(() => { browser.Navigate().Refresh(); return person.SeesAll("svg.longstrip .wave").Count > 0; }, 30);
        var bars = ((IReadOnlyCollection<object>)browser.ExecuteScript("return JSON.parse(document.getElementById('strip').dataset.bars)")!)
            .Select(D).ToList();
        bars.Count.ShouldBeGreaterThanOrEqualTo(3);
        (bars[1] - bars[0]).ShouldBe(2.266, 0.01, "a round lasts as long as the bar on the record");
        bars[0].ShouldBeInRange(2, 4.5, "a bar is counted in before the first");
        person.Opens("/passages/6/own-hands").SeesAll("#takes li").Count.ShouldBe(1);
    }

    [Fact]
    public void Pads_and_keys_are_scored_round_by_round()
    {
        const string pads = "navigator.requestMIDIAccess = async () => ({ inputs: new Map([['a', window.pads = { name: 'Six pads' }]]) });";
        var (browser, person) = AtHome();
        browser.ExecuteCdpCommand("Page.addScriptToEvaluateOnNewDocument", new() { ["source"] = pads });
        person.Opens("/passages/6/own-hands");
        person.Sees("#pads-connect").Click();
        person.Reads("#pads-said", "Heard: Six pads.");
        // Nothing is struck: every stroke is missed.
        person.Sees("[data-part=play]").Click();
        person.Reads("#pads-rounds", "missed");
        // A note of the pads and a key of the computer are strokes; the page's own keys rest meanwhile.
        browser.ExecuteScript("window.pads.onmidimessage({ data: [0x99, 38, 100], timeStamp: performance.now() }); "
            + "window.pads.onmidimessage({ data: [0x89, 38, 0], timeStamp: performance.now() })");
        person.Hands.SendKeys("j").Perform();
        Until(() => person.Sees("#pads-hit").Text == "2");
        person.Sees("[data-part=play]").Click();
        person.Sees("#pads-simulated").Click();
        person.Sees("[data-part=play]").Click();
        Until(() => person.SeesAll("#pads-rounds li").Count >= 2, 20);
        person.Sees("#pads-rounds").Text.ShouldMatch(@"\d: .*(\d+ ms (early|late) on the whole)");
        person.Sees("[data-part=play]").Click();
        Faults(browser).ShouldBeEmpty();
    }

    [Fact]
    public void A_loop_drawn_further_on_in_a_session_is_not_heard_what_lies_between()
    {
        var (browser, person) = AtHome();
        person.Opens("/recordings/2/listen").Clicks("Begin listening");
        person.Sees("[data-part=play]").Click();
        Thread.Sleep(2500);
        var room = Middle(browser, "#strip .wave-room");
        new OpenQA.Selenium.Interactions.Actions(browser).MoveToLocation((int)room.X, (int)room.Y).ClickAndHold().MoveByOffset(40, 0)
            .Release().Perform();
        Until(() => person.Sees("[data-part=loop]").Selected);
        Thread.Sleep(4000);
        person.Sees("[data-part=play]").Click();
        Until(() =>
        {
            browser.Navigate().Refresh(); return person.Sees("main").Text.Split("Heard")[^1].Count(c =>
            c == (char)0x2013) > 1;
        }, 20);
        var heard = person.Sees("main").Text.Split("Heard")[^1].Split('\n').Where(line => line.Contains('–')).ToList();
        heard.Count.ShouldBeGreaterThanOrEqualTo(2, "what was heard first, and what was heard there");
        heard[0].ShouldMatch(@"^0:00[.\d]*–0:0[0-9]");
    }

    [Fact]
    public void Every_room_with_sound_has_the_same_hand_on_it_and_the_same_keys()
    {
        var (browser, person) = AtHome();
        foreach (var room in (string[])["/recordings/2/listen", "/recordings/2/tempo", "/passages/5", "/passages/5/rhythm"])
        {
            person.Opens(room);
            Until(() => person.SeesAll("[data-part=speed]").Count > 0);
            Alt(browser, "p");
            Until(() => person.Sees("[data-part=plays]").Text == "Stop", 15);
            Alt(browser, "n");
            browser.ExecuteScript("return document.querySelector('[data-part=part]').value").ShouldBe("drums");
            Alt(browser, "n");
            Alt(browser, "-");
            person.Sees("[data-part=speed]").GetDomProperty("value").ShouldBe("95");
            Alt(browser, "=");
            Alt(browser, "p");
            Until(() => person.Sees("[data-part=plays]").Text != "Stop");
        }
        Faults(browser).ShouldBeEmpty();
    }

    [Fact]
    public void Tempo_and_bars_has_the_strip_under_one_hand()
    {
        var (browser, person) = AtHome();
        person.Opens("/recordings/2/tempo");
        Until(() => person.SeesAll("#strip .marked").Count > 10);
        var room = Middle(browser, "#strip .wave-room");
        new OpenQA.Selenium.Interactions.Actions(browser).MoveToLocation((int)room.X, (int)room.Y).ClickAndHold().MoveByOffset(60, 0)
            .Release().Perform();
        person.Sees("[data-part=loop]").Selected.ShouldBeTrue();
        double.Parse(person.Value("over-seconds"), CultureInfo.InvariantCulture).ShouldBeInRange(3, 30);
        person.Sees("[data-part=play]").Click();
        Until(() => person.Sees("[data-part=place]").Text.Contains("bar ", StringComparison.Ordinal));
        var marks = person.SeesAll("#strip .marked").Count;
        person.Sees("#mark").Click();
        Until(() => person.SeesAll("#strip .marked").Count == marks + 1);
        Faults(browser).ShouldBeEmpty();
    }

    [Fact]
    public void Bar_lines_are_laid_where_they_are_heard_and_become_marks_that_can_be_taken_back()
    {
        var (browser, person) = AtHome();
        person.Opens("/passages/7");
        var first = person.Sees("[data-grip=first]");
        person.SeesAll(".ridge").Count.ShouldBeGreaterThan(2);
        var before = double.Parse(first.GetDomAttribute("aria-valuenow")!, CultureInfo.InvariantCulture);
        browser.ExecuteScript("arguments[0].focus()", first);
        person.Hands.SendKeys(Keys.ArrowRight).SendKeys(Keys.ArrowRight).Perform();
        person.Hands.KeyDown(Keys.Shift).SendKeys(Keys.ArrowRight).KeyUp(Keys.Shift).Perform();
        double.Parse(person.Sees("[data-grip=first]").GetDomAttribute("aria-valuenow")!, CultureInfo.InvariantCulture)
            .ShouldBe(before + 0.021, 0.0005);
        person.Reads("#fit-said", "The bar lines lie at");
        person.Sees("#fit-keep").Click();
        person.Reads("#fit-said", "is marked at");
        person.Sees("#fit-back").Click();
        Until(() => !person.Sees("#fit").Displayed);
        person.Opens("/recordings/2/tempo");
        person.Value("Marks").Split('\n').Length.ShouldBe(20, "as before");
    }

    /// <summary>A finger that goes down, over and up, as the browser itself makes its events of it.</summary>
    private static void Finger(ChromeDriver browser, double x0, double y0, double x1, double y1)
    {
        void Send(string kind, params object[] points) => browser.ExecuteCdpCommand("Input.dispatchTouchEvent",
            new() { ["type"] = kind, ["touchPoints"] = points });
        object At(double share) => new Dictionary<string, object> { ["x"] = x0 + (x1 - x0) * share, ["y"] = y0 + (y1 - y0) * share };
        Send("touchStart", At(0));
        for (var i = 1; i <= 8; i++) Send("touchMove", At(i / 8.0));
        Send("touchEnd");
    }

    private static (double X, double Y) Middle(ChromeDriver browser, string css)
    {
        var at = (IReadOnlyDictionary<string, object>)browser.ExecuteScript(
            "const box = document.querySelector(arguments[0]).getBoundingClientRect(); return { x: box.x + box.width / 2, y: box.y + "
                + "box.height / 2 }", css)!;
        return (D(at["x"]), D(at["y"]));
    }

    [Fact]
    public void A_finger_draws_a_loop_on_the_wave_and_picks_along_the_strands_without_scrolling_away()
    {
        var (browser, person) = AtHome();
        const string cancelled = "window.cancelled = 0; addEventListener('pointercancel', () => window.cancelled++, true)";
        person.Opens("/recordings/2/listen");
        person.Sees(".wave-room");
        Until(() => Number(browser, "document.getElementById('audio').readyState") > 0);
        browser.ExecuteScript(cancelled);
        var (x, y) = Middle(browser, ".wave-room");
        Finger(browser, x - 200, y, x + 100, y + 12);
        Until(() => person.Value("loop-to").Length > 0);
        person.Sees("[data-part=loop]").GetDomProperty("checked").ShouldBe("True", StringCompareShould.IgnoreCase);
        Number(browser, "window.cancelled").ShouldBe(0);

        person.Opens("/passages/5");
        person.Sees("[data-grip=first]");
        browser.ExecuteScript(cancelled);
        // From a stroke, over half a bar: what is picked is offered, and nothing has moved.
        var typed = person.Value("Input_Text");
        var bead = Middle(browser, "#strands [data-voice='HH'][data-tick='0'] .bead");
        Finger(browser, bead.X, bead.Y, bead.X + 150, bead.Y + 2);
        Until(() => person.Sees("#picked").Displayed);
        Number(browser, "window.cancelled").ShouldBe(0);
        person.Value("Input_Text").ShouldBe(typed);
        person.Sees("[data-picked=loop]").Click();
        person.Sees("[data-state=playing]");
        Until(() => Started(browser).Any(s => s.Loop && s.LoopEnd < 2), 15);
        Alt(browser, "p");
        browser.ExecuteScript("document.querySelector('[data-part=span]').value = ''; "
            + "document.querySelector('[data-part=span]').dispatchEvent(new Event('change'))");
    }

    [Fact]
    public void Confirmed_places_are_heard_one_after_another_on_their_records()
    {
        var (browser, person) = AtHome();
        person.Opens("/ideas/1");
        person.Sees("#in-turn [data-part=play]").Click();
        Until(() => Number(browser, "document.body.dataset.heard ?? 0") >= 1, 15);
        person.SeesAll("tr.sounding").Count.ShouldBeLessThanOrEqualTo(1);
        // Where no record is at hand it is heard as it is written; then the next one.
        Until(() => person.Sees("#hear-said").Text.Contains("as written", StringComparison.Ordinal), 15);
        Until(() => person.Sees("#hear-said").Text is var said && said.StartsWith("Tarred Rope", StringComparison.Ordinal)
            && !said.Contains("written", StringComparison.Ordinal), 30);
        person.Sees("#in-turn [data-part=play]").Click();
        Until(() => person.SeesAll("tr.sounding").Count == 0);
    }

    private static void Until(Func<bool> holds, int seconds = 8)
    {
        var end = DateTime.UtcNow.AddSeconds(seconds);
        while (!holds())
        {
            DateTime.UtcNow.ShouldBeLessThan(end, "it did not happen in time");
            Thread.Sleep(50);
        }
    }
}
