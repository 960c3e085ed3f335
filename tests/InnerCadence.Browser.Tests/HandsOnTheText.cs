using OpenQA.Selenium;

namespace InnerCadence.Browser.Tests;

/// <summary>The bench as an instrument: text, strands, ring and staff follow one another.</summary>
[Collection(nameof(Site))]
public class HandsOnTheText(Site site)
{
    private Person Opens(string text)
    {
        var person = new Person(site.Browser(), site.Address).Opens("/recordings/1/passages/new");
        person.Sees(".paper");
        var field = person.Sees("#Input_Text");
        field.Clear();
        field.SendKeys(text);
        return person;
    }

    private static void Waits(Func<bool> holds, string what)
    {
        for (var i = 0; i < 300; i++)
        {
            try
            {
                if (holds()) return;
            }
            catch (StaleElementReferenceException)
            {
                // Drawn anew meanwhile.
            }
            Thread.Sleep(50);
        }
        holds().ShouldBeTrue(what);
    }

    [Fact]
    public void What_is_said_in_words_becomes_count_lines_by_one_key_and_one_step_takes_it_back()
    {
        var browser = site.Browser();
        var person = new Person(browser, site.Address).Opens("/recordings/3/passages/new");
        const string words = "snare on two and four";
        var text = person.Sees("#Input_Text");
        browser.ExecuteScript("arguments[0].value = ''", text);
        text.SendKeys(words);
        person.Reads(".fix", "Write SN: 2 4");
        new OpenQA.Selenium.Interactions.Actions(browser).KeyDown(Keys.Alt).SendKeys(Keys.Enter).KeyUp(Keys.Alt).Perform();
        Waits(() => person.Value("Input_Text") == $"# {words}\nSN: 2 4", "as count lines");
        new OpenQA.Selenium.Interactions.Actions(browser).KeyDown(Keys.Control).SendKeys("z").KeyUp(Keys.Control).Perform();
        Waits(() => person.Value("Input_Text") == words, "as it was typed");

        // Of two meanings none is taken for granted: the key leads to them.
        browser.ExecuteScript("arguments[0].value = 'SN: 2&4'; arguments[0].dispatchEvent(new Event('input'))", text);
        Waits(() => person.SeesAll(".fix").Count == 2, "both are offered");
        text.Click();
        new OpenQA.Selenium.Interactions.Actions(browser).KeyDown(Keys.Alt).SendKeys(Keys.Enter).KeyUp(Keys.Alt).Perform();
        person.Value("Input_Text").ShouldBe("SN: 2&4");
        person.Hands.SendKeys(Keys.Enter).Perform();
        Waits(() => person.Value("Input_Text") == "SN: 2 4", "the first was chosen");
        browser.ExecuteScript("for (const key of Object.keys(localStorage)) if (key.startsWith('inner-cadence draft')) "
            + "localStorage.removeItem(key)");
    }

    [Fact]
    public void A_stroke_is_set_marked_and_moved_on_the_strands_by_keys_and_the_text_follows()
    {
        var person = Opens("SN: 2 4\nBD: 1 3");
        person.Reads("#size", "1 bar, 4 strokes");
        person.Sees("#strands").SendKeys(Keys.ArrowRight);
        person.Hands.SendKeys(" ").Perform();
        Waits(() => person.Value("Input_Text") == "SN: 1 2 4\nBD: 1 3", "a stroke on the first count");
        person.Reads("#at", "snare on 1");
        person.Hands.SendKeys("g").Perform();
        Waits(() => person.Value("Input_Text") == "SN: (1) 2 4\nBD: 1 3", "a ghost");
        person.Reads("#at", "ghost");
        person.Hands.KeyDown(Keys.Alt).SendKeys(Keys.ArrowRight).KeyUp(Keys.Alt).Perform();
        Waits(() => person.Value("Input_Text") == "SN: (1e) 2 4\nBD: 1 3", "a sixteenth later");
        person.Hands.KeyDown(Keys.Control).SendKeys("z").KeyUp(Keys.Control).Perform();
        Waits(() => person.Value("Input_Text") == "SN: (1) 2 4\nBD: 1 3", "undone");
    }

    [Fact]
    public void A_bead_is_dragged_to_another_count_and_strand()
    {
        var person = Opens("SN: 2 4\nBD: 1");
        person.Reads("#size", "1 bar, 3 strokes");
        var from = person.Sees("#strands [data-voice='BD'][data-tick='0'] .bead");
        var to = person.Sees("#strands [data-voice='SN'][data-tick='30240'] .bead");
        // The first press chooses the stroke, the second drags it; a drag from a stroke that is not chosen picks.
        person.Hands.MoveToElement(from).Click().Perform();
        Thread.Sleep(600);
        person.Hands.MoveToElement(from).ClickAndHold().MoveToElement(to, -47, 0).Release().Perform();
        Waits(() => person.Value("Input_Text") == "SN: 2 3a 4\nBD: -", person.Value("Input_Text"));
    }

    [Fact]
    public void Staff_and_ring_show_the_strokes_of_the_strands()
    {
        var person = Opens("HH: 8ths 4&o\nSN: 2> (2a) 4f\nBD: 1 3[3]");
        person.Reads("#size", "1 bar, 15 strokes");
        person.Sees("#staff-part summary").Click();
        person.Sees("#ring-part summary").Click();
        person.Sees("#staff svg.staff");
        Waits(() => person.SeesAll("#ring svg [data-voice]").Count == 15, "ring");
        var strands = person.SeesAll("#strands [data-voice]").Select(b => (b.GetDomAttribute("data-tick"), b.GetDomAttribute("data-voice")))
            .Order().ToList();
        person.SeesAll("#ring [data-voice]").Select(b => (b.GetDomAttribute("data-tick"), b.GetDomAttribute("data-voice"))).Order()
            .ShouldBe(strands);
        person.SeesAll("#staff [data-voices]").SelectMany(s => s.GetDomAttribute("data-voices")!.Split(' ')
            .Select(v => (s.GetDomAttribute("data-tick"), (string?)v))).Order().ShouldBe(strands);
        person.SeesAll("#staff .vf-tuplet").Count.ShouldBe(1);
        // A picture that follows what is typed.
        person.Sees("#Input_Text").SendKeys(Keys.End + " | %\nRD: - | 1");
        Waits(() => person.SeesAll("#staff [data-voices*='RD']").Count == 1, "the staff follows");
    }

    [Fact]
    public void A_slip_is_put_right_by_one_key_and_undone_like_typing()
    {
        var person = Opens("SN: 1e&a 3");
        person.Reads("#problems", "several counts together");
        person.SeesAll(".c-error").ShouldNotBeEmpty("the slip is underlined where it stands");
        person.Hands.KeyDown(Keys.Alt).SendKeys("f").KeyUp(Keys.Alt).Perform();
        Waits(() => person.Value("Input_Text") == "SN: 1 e & a 3", person.Value("Input_Text"));
        person.Reads("#size", "5 strokes");
        person.Sees("#Input_Text").SendKeys(Keys.Control + "z");
        Waits(() => person.Value("Input_Text") == "SN: 1e&a 3", "undone");
    }

    [Fact]
    public void Moves_in_the_text_and_completion_of_voices()
    {
        var person = Opens("SN: 2 4\nB");
        person.Sees("#completion:not([hidden]) li");
        person.Hands.SendKeys(Keys.Enter).SendKeys("1 3").Perform();
        Waits(() => person.Value("Input_Text") == "SN: 2 4\nBD: 1 3", person.Value("Input_Text"));
        person.Reads("#size", "4 strokes");
        Waits(() => person.SeesAll("#strands .lit").Count == 1, "the bead under the caret is lit");
        person.Hands.KeyDown(Keys.Alt).SendKeys("a").KeyUp(Keys.Alt).Perform();
        Waits(() => person.Value("Input_Text") == "SN: 2 4\nBD: 1 3>", person.Value("Input_Text"));
        person.Hands.KeyDown(Keys.Alt).SendKeys("b").KeyUp(Keys.Alt).Perform();
        Waits(() => person.Value("Input_Text") == "SN: 2 4  | %\nBD: 1 3> | %"
            || person.Value("Input_Text") == "SN: 2 4 | %\nBD: 1 3> | %", person.Value("Input_Text"));
        person.Reads("#size", "2 bars");
    }

    [Fact]
    public void The_line_moves_over_every_picture_while_it_plays()
    {
        var person = Opens("SN: 2 4\nBD: 1 3");
        person.Reads("#size", "4 strokes");
        person.Sees("#staff-part summary").Click();
        person.Sees("#ring-part summary").Click();
        person.Sees("#staff svg.staff");
        person.Sees("[data-part='loop']").Click();
        person.Sees("[data-part='play']").Click();
        foreach (var picture in (string[])["svg.strands", "svg.staff", "svg.ring"])
        {
            string At() => person.Sees($"{picture} .now") is var line ? $"{line.GetDomAttribute("x2")},{line.GetDomAttribute("y2")}" : "";
            var first = At();
            Waits(() => At() != first, $"the line of {picture} moves");
        }
        person.Sees("[data-part='play']").Click();
        Waits(() => person.SeesAll("svg .now").Count == 0, "and goes when it stops");
    }

    [Fact]
    public void A_line_is_tapped_in_and_put_where_it_belongs()
    {
        var browser = site.Browser();
        var person = Opens("tempo 120\nHH: 8ths");
        person.Reads("#size", "8 strokes");
        // The sound's clock stands still where it is put, however busy the machine is.
        void Clock(double seconds) => browser.ExecuteScript("window.clock = arguments[0]; Object.defineProperty("
            + "BaseAudioContext.prototype, 'currentTime', { configurable: true, get: () => window.clock })", seconds);
        Clock(0);
        person.Sees("#tapin summary").Click();
        person.Sees("#tap-start").Click();
        Waits(() => person.Sees("#tap-start").Text == "Stop tapping", "it runs");
        // One bar of two seconds is counted in.
        for (var beat = 0; beat < 4; beat++)
        {
            Clock(2.15 + beat * 0.5);
            person.Hands.SendKeys("j").Perform();
        }
        person.Sees("#tap-start").Click();
        person.Reads("#tap-said", "4 taps");
        person.Reads("#tap-proposal", "SN: 4ths");
        person.Value("Input_Text").ShouldBe("tempo 120\nHH: 8ths", "nothing is changed before it is put in");
        person.Sees("#tap-put").Click();
        Waits(() => person.Value("Input_Text").Contains("SN: ", StringComparison.Ordinal), "put in");
    }

    [Fact]
    public void What_was_tapped_has_its_timing_and_a_bead_of_it_is_dragged_late()
    {
        var browser = site.Browser();
        var person = Opens("tempo 120\nHH: 4ths\nSN: 2 4");
        person.Reads("#size", "6 strokes");
        browser.ExecuteScript("document.querySelector(\"[name='Input.Played']\").value = '[[10080,\"SN\",4,0.6],[30240,\"SN\",6,0.6]]'");
        person.Sees("#Input_Note").Submit();
        Waits(() => person.Here.StartsWith("/passages/", StringComparison.Ordinal), "it is saved");
        var passage = person.Here;
        person.Opens($"{passage}/timing?by=4");
        Waits(() => person.Sees("#drags").Displayed, "it can be dragged");
        var bead = person.Sees("#played [data-tick='10080'][data-voice='SN']");
        // A quarter is half a second; four times as far makes 40 ms a third of it.
        person.Hands.ClickAndHold(bead).MoveByOffset(20, 0).MoveByOffset(20, 0).Perform();
        Waits(() => person.Sees("#drags output").Text.StartsWith("snare on 2: ", StringComparison.Ordinal), "it is told meanwhile");
        person.Hands.Release().Perform();
        person.Reads(".notice", "snare on 2: ");
        person.Sees(".notice").Text.ShouldMatch(@"snare on 2: (2\d|3\d)(\.\d)? ms late");
        person.Hands.ClickAndHold(person.Sees("#played [data-tick='30240'][data-voice='SN']")).MoveByOffset(1, 0).Release().Perform();
        person.Value("late").ShouldBeEmpty();
        person.Opens($"{passage}/timing?by=0").Reads("#drags", "choose above how far beads are shifted first");
    }

    [Fact]
    public void Layers_and_hidden_voices_leave_the_pictures()
    {
        var person = Opens("HH: 8ths\nSN: 2 (2a) 4\nBD: 1 3");
        person.Reads("#size", "13 strokes");
        person.Sees("details.more summary").Click();
        new OpenQA.Selenium.Support.UI.SelectElement(person.Sees("[data-part='layer']")).SelectByText("Hat and cymbals");
        Waits(() => person.SeesAll("#strands .stroke.pale").Count == 5, "snare and kick step back");
        new OpenQA.Selenium.Support.UI.SelectElement(person.Sees("[aria-label='How hat is shown']")).SelectByText("hidden");
        Waits(() => person.SeesAll("#strands .stroke.gone").Count == 8, "the hat is gone");
    }

    [Fact]
    public void Two_readings_are_heard_one_against_the_other()
    {
        var person = new Person(site.Browser(), site.Address).Opens("/passages/22");
        person.Sees("details.more summary").Click();
        new OpenQA.Selenium.Support.UI.SelectElement(person.Sees("[data-part='against']")).SelectByIndex(1);
        person.Sees("[data-part='loop']");
        person.Sees("[data-part='play']").Click();
        Waits(() => person.Sees("[data-player]").GetDomAttribute("data-state") == "playing", "it plays");
        person.Sees("[data-hear='1']").Click();
        Waits(() => person.Sees("[data-hear='1']").GetDomAttribute("aria-pressed") == "true", "the other is heard");
        person.Sees("[data-player]").GetDomAttribute("data-state").ShouldBe("playing", "without a stop between");
        person.Sees("[data-part='play']").Click();
    }
}
