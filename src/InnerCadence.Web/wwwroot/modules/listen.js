// A whole record at hand: played on from anywhere, looped and slowed on the audio clock, its loops drawn on the wave.
import { clock, seconds } from "./clock.js";
import { deck } from "./deck.js";
import { film } from "./film.js";
import { picture } from "./picture.js";
import "./reaction.js";

const by = (id) => document.getElementById(id);
/** @type {HTMLAudioElement | null} */
const audio = by("audio");
if (audio) rail(audio);

/** @param {HTMLAudioElement} audio */
function rail(audio) {
  const [strip, play, speed, part, loop, from, to, said] = ["strip", "play", "speed", "part", "loop", "loop-from", "loop-to", "sound-said"].map(by);
  // Bar lines from that of bar 1 on, where bars are known; sections as first bar, number of bars, name.
  const bars = JSON.parse(strip.dataset.bars ?? "[]");
  const sections = JSON.parse(strip.dataset.sections ?? "[]");
  const record = strip.dataset.record; // where loops are cut; nothing where only the browser reads the file
  const tell = (words) => { said.textContent = words; };
  by("transport").hidden = false;
  audio.controls = false;

  /** The loop that is set, or null. */
  function span() {
    const [a, b] = [seconds(from.value) || 0, seconds(to.value)];
    return loop.checked && b > a + 0.02 ? { from: a, to: b } : null;
  }

  const { loops, plays, here, start, stop, renew: sound, go: jump } = deck(audio, {
    record, span, speed: () => Number(speed.value), part: () => part.value, leave: () => { loop.checked = false; }, tell, changed: () => shown(),
  });

  const shown = () => { play.firstChild.textContent = plays() ? "Pause " : "Play "; strip.dataset.playing = plays() ? (loops() ? "loop" : "on") : ""; };
  for (const name of ["play", "pause"]) audio.addEventListener(name, shown);

  /** What changed is heard at once, and stands in the address. */
  function renew() {
    by("speed-said").textContent = `${speed.value} %`;
    remember();
    draw();
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
    if (b && loop.checked) query.set("to", b.includes(":") ? b : clock(seconds(b)));
    if (speed.value !== speed.max) query.set("speed", speed.value);
    const words = query.toString().replaceAll("%3A", ":");
    history.replaceState(null, "", words ? `${strip.dataset.address}?${words}` : strip.dataset.address);
    const write = by("write-down");
    if (write) {
      const wanted = new URLSearchParams({ at: clock(seconds(a) || here()), back: "listen", speed: speed.value });
      if (span()) wanted.set("to", clock(span()?.to ?? 0));
      write.href = `${write.dataset.address}?${wanted.toString().replaceAll("%3A", ":")}`;
    }
  }

  function set(a, b) {
    from.value = clock(Math.max(0, a));
    to.value = clock(b);
    loop.checked = true;
    renew();
  }

  /** The bar line at or before a second, from 0; -1 before bar 1. */
  const barAt = (second) => { const i = bars.findIndex((line) => line > second + 0.001); return i < 0 ? bars.length - 2 : i - 1; };

  /** So many bars round the line. */
  function some(count) {
    const bar = barAt(here());
    if (bar < 0 || bar >= bars.length - 1) return tell("Mark the recording’s bars first: then they are looped by number.");
    set(bars[bar], bars[Math.min(bars.length - 1, bar + count)]);
  }

  /** The loop a bar on or back; without bars by its own length. */
  function shift(way) {
    const wanted = span();
    if (!wanted) return some(1);
    const first = barAt(wanted.from + 0.02);
    const count = Math.max(1, Math.round((wanted.to - wanted.from) / ((bars[first + 1] ?? 0) - (bars[first] ?? 0)) || 0));
    if (first >= 0 && bars[first + way] !== undefined && bars[first + way + count] !== undefined && Math.abs(bars[first] - wanted.from) < 0.05)
      return set(bars[first + way], bars[first + way + count]);
    const length = wanted.to - wanted.from;
    set(wanted.from + way * length, wanted.to + way * length);
  }

  function nudge(by) {
    const wanted = span();
    if (wanted && loops()) set(wanted.from + by, wanted.to);
    else go(here() + by);
  }

  const hasten = (by) => { speed.value = Number(speed.value) + by; renew(); };
  const toggle = () => (plays() ? stop() : start());
  play.addEventListener("click", toggle);
  by("back").addEventListener("click", () => go(here() - 5));
  by("nudge").addEventListener("click", () => nudge(0.01));
  by("nudge-back").addEventListener("click", () => nudge(-0.01));
  by("set-from").addEventListener("click", () => { from.value = clock(here()); renew(); });
  by("set-to").addEventListener("click", () => { to.value = clock(here()); loop.checked = true; renew(); });
  by("earlier").addEventListener("click", () => shift(-1));
  by("later").addEventListener("click", () => shift(1));
  by("some").addEventListener("change", () => { some(Number(by("some").value)); by("some").value = ""; });
  for (const field of [speed, part]) field.addEventListener("input", renew);
  for (const field of [from, to, loop]) field.addEventListener("change", renew);
  audio.addEventListener("error", () => tell("The browser cannot play this file: attach it as WAV."));

  document.addEventListener("keydown", (event) => {
    if (event.ctrlKey || event.metaKey) return;
    if (event.altKey) {
      const does = {
        KeyP: toggle, KeyJ: () => shift(-1), KeyK: () => shift(1), KeyM: () => loop.click(), KeyN: () => { part.value = part.value === "drums" ? "whole" : "drums"; renew(); },
        Minus: () => hasten(event.shiftKey ? -10 : -5), Equal: () => hasten(event.shiftKey ? 10 : 5),
      }[event.code];
      if (!does) return;
      event.preventDefault();
      does();
    } else if (/^[1-9]$/.test(event.key) && !(/** @type {HTMLElement} */ (event.target).matches("input, textarea, select"))) some(Number(event.key));
  });

  const svg = () => strip.querySelector("svg");
  const wide = (picture) => picture.viewBox.baseVal.width * picture.dataset.width;
  const xOf = (picture, second) => (second - picture.dataset.from) / (picture.dataset.to - picture.dataset.from) * wide(picture);
  const secondOf = (event) => {
    const picture = svg();
    const share = (event.clientX - picture.getBoundingClientRect().left) / picture.clientWidth / picture.dataset.width;
    return share > 1 ? null : Number(picture.dataset.from) + share * (picture.dataset.to - picture.dataset.from);
  };

  function element(picture, name, look) {
    let found = picture.querySelector(`.${look}`);
    if (!found) {
      found = document.createElementNS("http://www.w3.org/2000/svg", name);
      found.setAttribute("class", look);
      picture.append(found);
    }
    return found;
  }

  function draw() {
    const picture = svg();
    const wanted = span();
    const shape = element(picture, "rect", "loop-span");
    const [a, b] = wanted ? [xOf(picture, wanted.from), xOf(picture, wanted.to)].map((x) => Math.max(0, Math.min(wide(picture), x))) : [0, 0];
    const room = picture.querySelector(".wave-room");
    for (const [name, value] of [["x", a], ["width", Math.max(0, b - a)], ["y", room?.getAttribute("y") ?? 90], ["height", room?.getAttribute("height") ?? 70]]) shape.setAttribute(name, value);
  }

  function show() {
    const at = here();
    by("at").textContent = clock(at);
    const bar = barAt(at);
    const section = sections.find(([first, count]) => bar + 1 >= first && bar + 1 < first + count);
    by("at-bar").textContent = bar < 0 || !bars.length ? "" : `bar ${bar + 1}${section ? ` · ${section[2]}, bar ${bar + 2 - section[0]} of ${section[1]}` : ""}`;
    const picture = svg();
    if (!picture.querySelector(".loop-span")) draw();
    const line = element(picture, "line", "now");
    const box = picture.viewBox.baseVal;
    const x = xOf(picture, at);
    for (const [name, value] of [["x1", x], ["x2", x], ["y1", 20], ["y2", box.height]]) line.setAttribute(name, value);
    line.setAttribute("visibility", x < 0 || x > wide(picture) ? "hidden" : "visible");
    strip.dispatchEvent(new CustomEvent("moves", { detail: plays() ? { at, rate: Number(speed.value) / 100 } : null }));
    // What is seen follows what is heard.
    if (plays() && !grabbed && (at > Number(picture.dataset.to) || at < Number(picture.dataset.from))) {
      const length = picture.dataset.to - picture.dataset.from;
      strip.dispatchEvent(new CustomEvent("shows", { detail: { from: at - 0.1 * length, to: at + 0.9 * length } }));
    }
  }

  (function watch() {
    show();
    requestAnimationFrame(watch);
  })();
  // The element stands where the loop is, so that everything goes on from there.
  setInterval(() => { if (loops()) audio.currentTime = here(); }, 100);

  // A drag on the wave is a loop, a click goes there; elsewhere the strip is moved.
  /** @type {{x: number, second: number} | null} */
  let grabbed = null;
  strip.addEventListener("pointerdown", (event) => {
    const second = event.button === 0 && event.target.closest(".wave-room") ? secondOf(event) : null;
    if (second === null) return;
    event.preventDefault();
    strip.setPointerCapture(event.pointerId);
    grabbed = { x: event.clientX, second };
  });
  strip.addEventListener("pointermove", (event) => {
    const second = grabbed && secondOf(event);
    if (!grabbed || second === null || Math.abs(event.clientX - grabbed.x) < 4) return;
    const [a, b] = [Math.min(grabbed.second, second), Math.max(grabbed.second, second)];
    [from.value, to.value, loop.checked] = [clock(a), clock(b), true];
    draw();
  });
  strip.addEventListener("pointerup", (event) => {
    const drawn = grabbed && Math.abs(event.clientX - grabbed.x) >= 4;
    grabbed = null;
    if (drawn) renew();
  });
  film(strip);
  let down = NaN; // where a pointer went down, in pixels
  strip.addEventListener("pointerdown", (event) => { down = event.clientX; });
  strip.addEventListener("click", (event) => {
    if (event.target.closest("a") || Math.abs(event.clientX - down) > 3) return;
    const second = secondOf(event);
    if (second !== null) go(second);
  });
  strip.addEventListener("keydown", (event) => {
    const wanted = span();
    const way = event.shiftKey ? { ArrowLeft: -1, ArrowRight: 1 }[event.key] : undefined;
    if (!way) return;
    event.preventDefault();
    event.stopImmediatePropagation();
    // With Shift the arrows draw the loop's end, as a drag does.
    set(wanted?.from ?? here(), (wanted?.to ?? here() + 1) + way * 0.05);
  }, true);

  const begin = seconds(from.value);
  audio.addEventListener("loadedmetadata", () => { if (begin > 0 && !plays()) go(begin); }, { once: true });
  if (begin > 0 && audio.readyState > 0) go(begin);
  audio.playbackRate = Number(speed.value) / 100;
  remember();

  // A picture that is being made comes by itself; one that only the browser can make is made here.
  if (by("hearing").dataset.overview === "wait") setTimeout(() => { if (!plays()) location.reload(); }, 1500);
  if (by("hearing").dataset.overview === "make") picture(audio, tell);
}
