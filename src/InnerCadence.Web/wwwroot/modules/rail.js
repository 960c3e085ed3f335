// The strip of a whole record under one's hand: its line moves with what sounds, a drag on the wave is a loop, a click goes there.

/** @typedef {{from: number, to: number}} Span In seconds. */

/**
 * @param {HTMLElement} strip
 * @param {{plays: () => boolean, here: () => number, rate: () => number, span: () => Span | null,
 *   set: (loop: Span, done: boolean) => void, go: (second: number) => void, marks?: () => number[]}} hooks
 * `set` takes a loop that is being drawn, `done` when it is; `marks` are seconds at which lines stand.
 * @returns {{draw: () => void, show: () => void}} `draw` anew the loop and the marks; `show` where one is.
 */
export function rail(strip, { plays, here, rate, span, set, go, marks }) {
  const svg = () => strip.querySelector("svg");
  const wide = (picture) => picture.viewBox.baseVal.width * picture.dataset.width;
  const xOf = (picture, second) => ((second - picture.dataset.from) / (picture.dataset.to - picture.dataset.from)) * wide(picture);
  const secondOf = (event) => {
    const picture = svg();
    const share = (event.clientX - picture.getBoundingClientRect().left) / picture.clientWidth / picture.dataset.width;
    return share > 1 ? null : Number(picture.dataset.from) + share * (picture.dataset.to - picture.dataset.from);
  };
  /** @type {{x: number, second: number} | null} */
  let grabbed = null;

  function made(picture, name, look) {
    const shape = document.createElementNS("http://www.w3.org/2000/svg", name);
    shape.setAttribute("class", look);
    picture.append(shape);
    return shape;
  }
  const give = (shape, values) => {
    for (const [name, value] of Object.entries(values)) shape.setAttribute(name, value);
  };

  function draw() {
    const picture = svg();
    if (!picture) return;
    const shape = picture.querySelector(".loop-span") ?? made(picture, "rect", "loop-span");
    const wanted = span();
    const [a, b] = wanted
      ? [xOf(picture, wanted.from), xOf(picture, wanted.to)].map((x) => Math.max(0, Math.min(wide(picture), x)))
      : [0, 0];
    const room = picture.querySelector(".wave-room");
    const [top, high] = [Number(room?.getAttribute("y") ?? 90), Number(room?.getAttribute("height") ?? 70)];
    give(shape, { x: a, width: Math.max(0, b - a), y: top, height: high });
    for (const old of picture.querySelectorAll(".marked")) old.remove();
    for (const second of marks?.() ?? []) {
      const x = xOf(picture, second);
      if (x >= 0 && x <= wide(picture)) give(made(picture, "line", "marked"), { x1: x, x2: x, y1: top, y2: top + high });
    }
  }

  function show() {
    const picture = svg();
    if (!picture) return;
    const at = here();
    if (!picture.querySelector(".loop-span")) draw();
    const x = xOf(picture, at);
    give(picture.querySelector(".now") ?? made(picture, "line", "now"), {
      x1: x,
      x2: x,
      y1: 20,
      y2: picture.viewBox.baseVal.height,
      visibility: x < 0 || x > wide(picture) ? "hidden" : "visible",
    });
    strip.dispatchEvent(new CustomEvent("moves", { detail: plays() ? { at, rate: rate() } : null }));
    // What is seen follows what is heard.
    if (plays() && !grabbed && (at > Number(picture.dataset.to) || at < Number(picture.dataset.from))) {
      const length = picture.dataset.to - picture.dataset.from;
      strip.dispatchEvent(new CustomEvent("shows", { detail: { from: at - 0.1 * length, to: at + 0.9 * length } }));
    }
  }

  strip.addEventListener("pointerdown", (event) => {
    const second = event.button === 0 && /** @type {Element} */ (event.target).closest(".wave-room") ? secondOf(event) : null;
    if (second === null) return;
    event.preventDefault();
    strip.setPointerCapture(event.pointerId);
    grabbed = { x: event.clientX, second };
  });
  const drawn = (event) => {
    const second = grabbed && secondOf(event);
    return !grabbed || second === null || Math.abs(event.clientX - grabbed.x) < 4
      ? null
      : { from: Math.min(grabbed.second, second), to: Math.max(grabbed.second, second) };
  };
  strip.addEventListener("pointermove", (event) => {
    const loop = drawn(event);
    if (loop) {
      set(loop, false);
      draw();
    }
  });
  strip.addEventListener("pointerup", (event) => {
    const loop = drawn(event) ?? (grabbed && Math.abs(event.clientX - grabbed.x) >= 4 ? span() : null);
    grabbed = null;
    if (loop) set(loop, true);
  });
  let down = NaN; // where a pointer went down, in pixels
  strip.addEventListener("pointerdown", (event) => {
    down = event.clientX;
  });
  strip.addEventListener("click", (event) => {
    if (/** @type {Element} */ (event.target).closest("a") || Math.abs(event.clientX - down) > 3) return;
    const second = secondOf(event);
    if (second !== null) go(second);
  });
  strip.addEventListener(
    "keydown",
    (event) => {
      const way = event.shiftKey ? { ArrowLeft: -1, ArrowRight: 1 }[event.key] : undefined;
      if (!way) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      // With Shift the arrows draw the loop's end, as a drag does.
      const wanted = span();
      set({ from: wanted?.from ?? here(), to: (wanted?.to ?? here() + 1) + way * 0.05 }, true);
    },
    true,
  );
  return { draw, show };
}

/** The bar line at or before a second, from 0; -1 before bar 1. @param {number[]} bars Seconds of bar lines from that of bar 1 on. */
export const barAt = (bars, second) => {
  const i = bars.findIndex((line) => line > second + 0.001);
  return i < 0 ? bars.length - 2 : i - 1;
};

/** Where one is, in words: bar, and section as first bar, number of bars, name. */
export function placeIn(bars, sections, second) {
  const bar = barAt(bars, second);
  if (bar < 0 || !bars.length) return "";
  const section = sections.find(([first, count]) => bar + 1 >= first && bar + 1 < first + count);
  return `bar ${bar + 1}${section ? ` · ${section[2]}, bar ${bar + 2 - section[0]} of ${section[1]}` : ""}`;
}
