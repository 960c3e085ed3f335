using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;
using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;
using OpenQA.Selenium.Interactions;

namespace InnerCadence.Browser.Tests;

/// <summary>A groove is written on the strands alone: by a finger on a tablet, by keys that never leave them.</summary>
[Collection(nameof(Site))]
public class ByFingerAndByKeys(Site site)
{
    /// <summary>Two bars with a flam, an open hat and triplets.</summary>
    private const string Groove = "HH: 8ths 4&o | 8ths -4&\nSN: 2 4f | 2 4f t l\nBD: 1 3 | 1 3";

    private static void Until(Func<bool> holds, Func<string> what)
    {
        for (var i = 0; i < 2400 && !holds(); i++) Thread.Sleep(50);
        holds().ShouldBeTrue(what());
    }

    private static void SaysTheGroove(Person person)
    {
        var wanted = CountLines.Parse(Groove).Passage;
        string Now() => person.Value("Input_Text") ?? "";
        Until(() => CountLines.Parse(Now()) is { HasErrors: false, Passage: { Bars: 2 } read }
            && read.Strokes.SequenceEqual(wanted.Strokes),
            Now);
    }

    /// <summary>A tablet under a finger.</summary>
    private sealed class Finger(ChromeDriver browser) : IDisposable
    {
        public int Taps { get; private set; }

        public Finger Takes(int width, int height)
        {
            browser.ExecuteCdpCommand("Emulation.setDeviceMetricsOverride", new()
            {
                ["width"] = width,
                ["height"] = height,
                ["deviceScaleFactor"] = 1,
                ["mobile"] = true,
            });
            browser.ExecuteCdpCommand("Emulation.setTouchEmulationEnabled", new() { ["enabled"] = true });
            return this;
        }

        /// <summary>A count on a strand, once the strands say what was done before.</summary>
        public void Taps_(string voice, int tick, int held = 0)
        {
            var text = Text();
            Touches("""
                const svg = document.querySelector('#strands svg'), cell = svg.querySelector(`.cell[data-tick="${arguments[1]}"]`);
                cell.scrollIntoView({ block: 'center', inline: 'center' });
                const [, , y] = JSON.parse(svg.dataset.voices).find(([code]) => code === arguments[0]);
                const at = new DOMPoint(Number(cell.getAttribute('x')) + 10, Number(cell.dataset.top) + y)
                    .matrixTransform(svg.getScreenCTM());
                return { x: at.x, y: at.y, width: cell.getBoundingClientRect().width };
                """, held, voice, tick);
            if (held == 0) Until(() => Text() != text, () => $"a tap on {voice} at {tick} changes {text}");
        }

        public void Presses(string css) => Touches("""
            const one = document.querySelector(arguments[0]);
            one.scrollIntoView({ block: 'center', inline: 'center' });
            const box = one.getBoundingClientRect();
            return { x: box.x + box.width / 2, y: box.y + box.height / 2, width: box.width };
            """, 0, css);

        private string Text() => (string)browser.ExecuteScript("return document.getElementById('Input_Text').value")!;

        private void Touches(string where, int held, params object[] about)
        {
            var at = (IReadOnlyDictionary<string, object>)browser.ExecuteScript(where, about)!;
            var finger = new PointerInputDevice(PointerKind.Touch);
            // One command: between two of them a busy machine would hold the finger down.
            browser.PerformActions(new ActionBuilder()
                .AddAction(finger.CreatePointerMove(CoordinateOrigin.Viewport, Convert.ToInt32(at["x"]), Convert.ToInt32(at["y"]),
                    TimeSpan.Zero))
                .AddAction(finger.CreatePointerDown(MouseButton.Touch))
                .AddAction(finger.CreatePause(TimeSpan.FromMilliseconds(held)))
                .AddAction(finger.CreatePointerUp(MouseButton.Touch))
                .ToActionSequenceList());
            Taps++;
        }

        public void Dispose()
        {
            browser.ExecuteCdpCommand("Emulation.setTouchEmulationEnabled", new() { ["enabled"] = false });
            browser.ExecuteCdpCommand("Emulation.clearDeviceMetricsOverride", []);
        }
    }

    private const int Eighth = Tick.PerQuarter / 2, Bar = Tick.PerQuarter * 4, Triplet = Tick.PerQuarter / 3;

    private static (ChromeDriver Browser, Person Person) OnAnEmptyPage(Site site)
    {
        var browser = site.Browser();
        var person = new Person(browser, site.Address).Opens("/recordings/4/passages/new");
        browser.ExecuteScript("for (const key of Object.keys(localStorage)) if (key.startsWith('inner-cadence draft')) "
            + "localStorage.removeItem(key)");
        person.Opens("/recordings/4/passages/new");
        person.Value("Input_Text").ShouldNotContain(":");
        return (browser, person);
    }

    [Fact]
    public void A_groove_of_two_bars_with_triplets_a_flam_and_an_open_hat_is_written_by_fewer_than_sixty_taps()
    {
        var (browser, person) = OnAnEmptyPage(site);
        using var finger = new Finger(browser).Takes(820, 1180);
        person.Opens("/recordings/4/passages/new");
        person.Sees("#strands .same-again");
        // The strands are what one sees first, wide enough for a finger.
        ((bool)browser.ExecuteScript("return document.getElementById('strands').getBoundingClientRect().top "
            + "< document.getElementById('Input_Text').getBoundingClientRect().top")!).ShouldBeTrue();
        Convert.ToDouble(browser.ExecuteScript("return Math.min(...[...document.querySelectorAll('#strands .cell')]"
            + ".map((cell) => cell.getBoundingClientRect().width))")).ShouldBeGreaterThanOrEqualTo(44);

        for (var eighth = 0; eighth < 7; eighth++) finger.Taps_("HH", eighth * Eighth);
        finger.Taps_("HH", 7 * Eighth, held: 700);
        finger.Presses("#stroke-menu [data-mark=open]");
        Until(() => person.Value("Input_Text")!.Contains('o'), () => person.Value("Input_Text")!);
        finger.Taps_("SN", 2 * Eighth);
        finger.Taps_("SN", 6 * Eighth, held: 700);
        finger.Presses("#stroke-menu [data-mark=flam]");
        Until(() => person.Value("Input_Text")!.Contains('f'), () => person.Value("Input_Text")!);
        finger.Taps_("BD", 0);
        finger.Taps_("BD", 4 * Eighth);
        finger.Presses("#strands .same-again");
        Until(() => person.SeesAll("#strands .divide").Count == 8, () => "two bars");
        // The open hat goes round to none; the last beat goes in three.
        for (var tap = 0; tap < 3; tap++) finger.Taps_("HH", Bar + 7 * Eighth);
        finger.Presses("#strands .divide[data-bar='1'][data-beat='3']");
        person.Sees($"#strands .cell[data-tick='{Bar + 6 * Eighth + 2 * Triplet}']");
        finger.Taps_("SN", Bar + 6 * Eighth + Triplet);
        finger.Taps_("SN", Bar + 6 * Eighth + 2 * Triplet);
        SaysTheGroove(person);
        finger.Taps.ShouldBeLessThan(60);
    }

    [Fact]
    public void A_mark_on_a_span_marks_its_strokes_and_sets_none()
    {
        var (browser, person) = OnAnEmptyPage(site);
        browser.ExecuteScript("const field = document.getElementById('Input_Text'); field.value = 'SN: 1 2'; "
            + "field.dispatchEvent(new Event('input'))");
        person.Reads("#size", "2 strokes");
        person.Sees("#strands").SendKeys(Keys.ArrowRight);
        person.Hands.KeyDown(Keys.Shift).SendKeys(string.Concat(Enumerable.Repeat(Keys.ArrowRight, 6))).KeyUp(Keys.Shift).SendKeys("g")
            .Perform();
        Until(() => person.Value("Input_Text")!.Contains('('), () => person.Value("Input_Text")!);
        Thread.Sleep(300);
        CountLines.Parse(person.Value("Input_Text")!).Passage.Strokes.Select(s => s.Dynamic).ShouldBe([Dynamic.Ghost, Dynamic.Ghost]);
    }

    private static readonly string[] Eight = [Keys.ArrowRight, Keys.ArrowRight];

    /// <summary>The groove key by key: what is on each strand of the first bar, the bar again, its last beat otherwise.</summary>
    private static readonly string[][] ByKeys =
    [
        [.. Enumerable.Range(0, 7).SelectMany(_ => (string[])[" ", .. Eight]), " ", "o", Keys.Home, Keys.ArrowDown],
        [.. Eight, .. Eight, " ", .. Eight, .. Eight, .. Eight, .. Eight, " ", "f", Keys.Home, Keys.ArrowDown, " "],
        [.. Eight, .. Eight, .. Eight, .. Eight, " ", "b"],
        // On the first count of the second bar; up to the hat, on to its last eighth, which is taken out.
        [Keys.End, Keys.ArrowUp, Keys.ArrowUp, Keys.ArrowLeft, " ", Keys.ArrowDown, Keys.ArrowLeft, Keys.ArrowLeft, "3"],
        [Keys.ArrowRight, " ", Keys.ArrowRight, " "],
    ];

    [Fact]
    public void The_same_is_written_by_keys_that_never_leave_the_strands()
    {
        var (browser, person) = OnAnEmptyPage(site);
        person.Sees("#strands").SendKeys(Keys.ArrowRight);
        foreach (var keys in ByKeys)
        {
            person.Hands.SendKeys(string.Concat(keys)).Perform();
            if (keys[^1] == "b") person.Reads("#at", "2.1: kick");
        }
        SaysTheGroove(person);
        ((string)browser.ExecuteScript("return document.activeElement.id")!).ShouldBe("strands");
    }

    private static void AnswersComeLate(ChromeDriver browser) =>
        browser.ExecuteScript("const ask = window.fetch; window.fetch = async (...about) => { "
            + "await new Promise((go) => setTimeout(go, 40 + 120 * Math.random())); return ask(...about); };");

    [Fact]
    public void Pictures_that_do_not_come_do_not_hold_up_the_keys_after_it()
    {
        var (browser, person) = OnAnEmptyPage(site);
        person.Sees("#strands").SendKeys(Keys.ArrowRight);
        browser.ExecuteScript("const ask = window.fetch; window.fetch = async (address, about) => { "
            + "if (!String(address).includes('/parse')) return ask(address, about); "
            + "await new Promise((go) => setTimeout(go, 300)); throw new TypeError('away'); };");
        person.Hands.SendKeys($" {Keys.ArrowRight}{Keys.ArrowRight} ").Perform();
        Until(() => CountLines.Parse(person.Value("Input_Text")!).Passage.Strokes.Select(s => s.At.Value).SequenceEqual([0, Eighth]),
            () => person.Value("Input_Text")!);
    }

    [Fact]
    public void Moves_by_keys_in_the_text_are_all_done_too()
    {
        var (browser, person) = OnAnEmptyPage(site);
        person.Sees("#Input_Text").SendKeys(Keys.End + "\nHH: 8ths\nSN: 1");
        person.Reads("#size", "9 strokes");
        AnswersComeLate(browser);
        person.Hands.KeyDown(Keys.Alt).SendKeys("...,.ga").KeyUp(Keys.Alt).Perform();
        Until(() => CountLines.Parse(person.Value("Input_Text")!).Passage.Strokes.Any(s => s is { Dynamic: Dynamic.Accent }
            && s.Voice == Voice.Snare && s.At == new Tick(3 * Eighth / 2)), () => person.Value("Input_Text")!);
    }

    [Fact]
    public void Keys_that_are_faster_than_the_answers_are_all_done_in_their_order()
    {
        var (browser, person) = OnAnEmptyPage(site);
        person.Sees("#strands").SendKeys(Keys.ArrowRight);
        AnswersComeLate(browser);
        person.Hands.SendKeys(string.Concat(ByKeys.SelectMany(keys => keys))).Perform();
        SaysTheGroove(person);
        person.Hands.KeyDown(Keys.Alt).SendKeys(Keys.ArrowUp).KeyUp(Keys.Alt).SendKeys("g").Perform();
        Until(() => person.Value("Input_Text")!.Contains('('), () => person.Value("Input_Text")!);
        CountLines.Parse(person.Value("Input_Text")!).Passage.Strokes.ShouldContain(s => s.Dynamic == Dynamic.Ghost
            && s.Voice == Voice.Hat && s.At == new Tick(Bar + 6 * Eighth + 2 * Triplet));
    }
}
