// A whole record at hand: played on from anywhere, looped and slowed on the audio clock, its loops drawn on the wave.
import { clock, seconds } from "./clock.js";
import { deck } from "./deck.js";
import { film } from "./film.js";
import { picture } from "./picture.js";
import { barAt, placeIn, rail } from "./rail.js";
import "./reaction.js";
import { transport } from "./transport.js";

const by = (id) => document.getElementById(id);
/** @type {HTMLAudioElement | null} */
const audio = by("audio");
if (audio) listen(audio);

/** @param {HTMLAudioElement} audio */
function listen(audio) {
  const [strip, root, from, to, said] = ["strip", "transport", "loop-from", "loop-to", "sound-said"].map(by);
  /** @type {HTMLSelectElement} */
  const some = root.querySelector("[data-part=span]");
  // Bar lines from that of bar 1 on, where bars are known; sections as first bar, number of bars, name.
  const bars = JSON.parse(strip.dataset.bars ?? "[]");
  const sections = JSON.parse(strip.dataset.sections ?? "[]");
  const record = strip.dataset.record; // where loops are cut; nothing where only the browser reads the file
  const tell = (words) => {
    said.textContent = words;
  };
  root.hidden = false;
  audio.controls = false;

  /** The loop that is set, or null. */
  function span() {
    const [a, b] = [seconds(from.value) || 0, seconds(to.value)];
    return hand.looped() && b > a + 0.02 ? { from: a, to: b } : null;
  }

  const hand = transport(root, {
    toggle: () => (plays() ? stop() : start()),
    stop: () => stop(),
    shift,
    changed: (what) => (what === "span" && some.value ? take(Number(some.value)) : renew()),
  });
  const {
    loops,
    plays,
    here,
    rate,
    start,
    stop,
    renew: sound,
    go: jump,
  } = deck(audio, root, hand, {
    record,
    span,
    tell,
    changed: () => {
      strip.dataset.playing = plays() ? (loops() ? "loop" : "on") : "";
    },
  });

  const line = rail(strip, {
    plays,
    here,
    rate,
    span,
    go,
    set: (drawn, done) => {
      draw(drawn.from, drawn.to);
      some.value = "";
      if (done) renew();
    },
  });

  /** What changed is heard at once, and stands in the address. */
  function renew() {
    remember();
    line.draw();
    return sound();
  }

  function go(time) {
    jump(time);
    show();
  }

  /** Loop and speed stand in the address, so that it leads back to the same place at the same speed. */
  function remember() {
    const [a, b] = [from, to].map((field) => field.value.trim());
    const query = new URLSearchParams();
    if (a) query.set("from", a.includes(":") ? a : clock(seconds(a)));
    if (b && hand.looped()) query.set("to", b.includes(":") ? b : clock(seconds(b)));
    if (hand.percent() < 100) query.set("speed", String(hand.percent()));
    const words = query.toString().replaceAll("%3A", ":");
    history.replaceState(null, "", words ? `${strip.dataset.address}?${words}` : strip.dataset.address);
    const write = by("write-down");
    if (write) {
      const wanted = new URLSearchParams({ at: clock(seconds(a) || here()), back: "listen", speed: String(hand.percent()) });
      if (span()) wanted.set("to", clock(span()?.to ?? 0));
      write.href = `${write.dataset.address}?${wanted.toString().replaceAll("%3A", ":")}`;
    }
  }

  function draw(a, b) {
    [from.value, to.value] = [clock(Math.max(0, a)), clock(b)];
    hand.switch(true);
  }

  function set(a, b) {
    draw(a, b);
    renew();
  }

  /** So many bars round the line. */
  function take(count) {
    const bar = barAt(bars, here());
    if (bar < 0 || bar >= bars.length - 1) return tell("Mark the recording’s bars first: then they are looped by number.");
    set(bars[bar], bars[Math.min(bars.length - 1, bar + count)]);
    some.value = String(count);
  }

  /** The loop a bar on or back; without bars by its own length. */
  function shift(way) {
    const wanted = span();
    if (!wanted) return take(1);
    const first = barAt(bars, wanted.from + 0.02);
    const count = Math.max(1, Math.round((wanted.to - wanted.from) / ((bars[first + 1] ?? 0) - (bars[first] ?? 0)) || 0));
    if (
      first >= 0 &&
      bars[first + way] !== undefined &&
      bars[first + way + count] !== undefined &&
      Math.abs(bars[first] - wanted.from) < 0.05
    )
      return set(bars[first + way], bars[first + way + count]);
    const length = wanted.to - wanted.from;
    set(wanted.from + way * length, wanted.to + way * length);
  }

  function nudge(by) {
    const wanted = span();
    if (wanted && loops()) set(wanted.from + by, wanted.to);
    else go(here() + by);
  }

  by("back").addEventListener("click", () => go(here() - 5));
  by("nudge").addEventListener("click", () => nudge(0.01));
  by("nudge-back").addEventListener("click", () => nudge(-0.01));
  by("set-from").addEventListener("click", () => {
    from.value = clock(here());
    renew();
  });
  by("set-to").addEventListener("click", () => {
    to.value = clock(here());
    hand.switch(true);
    renew();
  });
  for (const field of [from, to])
    field.addEventListener("change", () => {
      some.value = "";
      renew();
    });
  audio.addEventListener("error", () => tell("The browser cannot play this file: attach it as WAV."));

  document.addEventListener("keydown", (event) => {
    if (event.ctrlKey || event.metaKey || event.altKey || !/^[1-9]$/.test(event.key)) return;
    if (!(/** @type {HTMLElement} */ (event.target).matches("input, textarea, select"))) take(Number(event.key));
  });

  function show() {
    const at = here();
    hand.place(`${clock(at)} ${placeIn(bars, sections, at)}`);
    line.show();
  }

  (function watch() {
    show();
    requestAnimationFrame(watch);
  })();
  // The element stands where the loop is, so that everything goes on from there.
  setInterval(() => {
    if (loops()) audio.currentTime = here();
  }, 100);

  film(strip);

  const begin = seconds(from.value);
  audio.addEventListener(
    "loadedmetadata",
    () => {
      if (begin > 0 && !plays()) go(begin);
    },
    { once: true },
  );
  if (begin > 0 && audio.readyState > 0) go(begin);
  remember();

  // A picture that is being made comes by itself; one that only the browser can make is made here.
  if (by("hearing").dataset.overview === "wait")
    setTimeout(() => {
      if (!plays()) location.reload();
    }, 1500);
  if (by("hearing").dataset.overview === "make") picture(audio, tell);
}
