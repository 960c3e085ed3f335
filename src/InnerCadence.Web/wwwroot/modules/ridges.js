// The record behind the strands: its wave above the counts, the energy of each band under the voices that live in it, both on the strands'
// own time axis; and two handles on the wave, by which the first and the last bar line are laid where they are heard.
import { clock } from "./clock.js";
import { lineOf } from "./lines.js";
import { get } from "./page.js";

const svgName = "http://www.w3.org/2000/svg";
const around = 1; // seconds before and after the passage that are fetched with it, so that a handle can be drawn a little
const gap = 8; // pixels of the picture between the wave and the counts

/**
 * @param {HTMLElement} root Of the player. @param {HTMLElement} strands Where the picture stands.
 * @param {(lines: number[], done: boolean) => void} fitted What is done where bar lines are laid elsewhere.
 */
export function ridges(root, strands, fitted) {
  /** @type {{address: string, lines: number[], bar: number | null} | null} */
  let record = null;
  /**
   * @type {{from: number, step: number, peak: number[], low: number[], middle: number[], high: number[],
   *   heard: {from: number, step: number, families: Record<string, number[]>} | null} | null}
   */
  let energy = null;
  let turn = 0;

  async function hear(given) {
    record = given;
    const { address, lines } = given;
    if (lines.length < 2) return draw();
    const [from, to] = [Math.max(0, lines[0] - around), lines[lines.length - 1] + around];
    if (energy && energy.from <= lines[0] && energy.from + energy.peak.length * energy.step >= lines[lines.length - 1]) return draw();
    const mine = ++turn;
    const answer = await get(`${address}/energy?${new URLSearchParams({ from: from.toFixed(3), to: Math.min(to, from + 60).toFixed(3) })}`);
    if (mine !== turn || !answer?.ok) return;
    energy = { from, ...(await answer.json()) };
    draw();
  }

  function draw() {
    for (const old of strands.querySelectorAll(".ridges, .wave-strip")) old.remove();
    const svg = strands.querySelector("svg.strands");
    if (!svg || !record || !energy || record.lines.length < 2 || !Number(svg.dataset.wave)) return;
    const rows = JSON.parse(svg.dataset.rows);
    const bars = [...JSON.parse(svg.dataset.bars), rows.at(-1)?.[1] ?? 0];
    const voices = JSON.parse(svg.dataset.voices);
    const groups = svg.querySelectorAll(":scope > g > .bars-row");
    rows.forEach((row, i) => {
      const [start, end, x0, x1, y0] = row;
      const place = (second) => x0 + ((x1 - x0) * (tickAt(bars, second) - start)) / (end - start);
      const [a, b] = [secondAt(bars, start), secondAt(bars, end)];
      const behind = made("g", { class: "ridges" });
      for (const [, , y, , band, family] of voices) {
        const heard = energy?.heard?.families[family] && {
          from: energy.heard.from,
          step: energy.heard.step,
          values: energy.heard.families[family],
        };
        behind.append(
          made("path", {
            class: "ridge",
            d: shape(heard || own(energy?.[band]), a, b, place, y0 + y, (heard ? -0.8 : -0.62) * spacing(voices)),
          }),
        );
      }
      const [top, bottom] = [y0 - Number(svg.dataset.wave) - gap, y0 - 26];
      const wave = made("g", { class: "wave-strip" });
      wave.append(made("rect", { class: "wave-ground", x: x0 - 10, y: top, width: x1 - x0 + 10, height: bottom - top }));
      const [middle, half] = [(top + bottom) / 2, (bottom - top) / 2];
      for (const side of [1, -1])
        wave.append(made("path", { class: "wave-shape", d: shape(own(energy?.peak), a, b, place, middle, side * half) }));
      if (i === 0) wave.append(handle("first", place(a), top, bottom, (x1 - x0) / (b - a)));
      if (i === rows.length - 1) wave.append(handle("last", place(b), top, bottom, (x1 - x0) / (b - a)));
      groups[i]?.prepend(behind, wave);
    });
  }

  const spacing = (voices) => (voices.length > 1 ? voices[1][2] - voices[0][2] : 30);

  function secondAt(bars, tick) {
    const lines = record?.lines ?? [];
    let bar = bars.findIndex((start, i) => tick >= start && tick < (bars[i + 1] ?? Infinity));
    bar = Math.max(0, Math.min(bar, bars.length - 2));
    const [from, to] = [lineOf(lines, bar), lineOf(lines, bar + 1)];
    return from + ((to - from) * (tick - bars[bar])) / (bars[bar + 1] - bars[bar]);
  }

  function tickAt(bars, second) {
    const lines = record?.lines ?? [];
    let bar = 0;
    while (bar < bars.length - 2 && second >= lineOf(lines, bar + 1)) bar++;
    const [from, to] = [lineOf(lines, bar), lineOf(lines, bar + 1)];
    return bars[bar] + ((bars[bar + 1] - bars[bar]) * (second - from)) / (to - from);
  }

  const own = (values) => ({ from: energy?.from ?? 0, step: energy?.step ?? 1, values: values ?? [] });

  function shape({ from, step, values }, a, b, place, y, height) {
    const [first, end] = [Math.max(0, Math.floor((a - from) / step)), Math.min(values.length, Math.ceil((b - from) / step))];
    let path = "";
    for (let i = first; i < end; i++) {
      const x = Math.max(place(a), Math.min(place(b), place(from + i * step)));
      path += `${path ? "L" : `M${x.toFixed(1)} ${y}L`}${x.toFixed(1)} ${(y + height * values[i]).toFixed(1)}`;
    }
    return path ? `${path}L${place(b).toFixed(1)} ${y}Z` : "";
  }

  function handle(which, x, top, bottom, pixelsASecond) {
    const grip = made("g", {
      class: "grip",
      tabindex: "0",
      role: "slider",
      "data-grip": which,
      "aria-label":
        which === "first"
          ? "First bar line on the record: arrows move it by 10 ms, with Shift by 1"
          : "Last bar line on the record: arrows move it by 10 ms, with Shift by 1",
      "aria-valuetext": clock(seconds(which)),
      "aria-valuenow": seconds(which).toFixed(3),
    });
    const inward = which === "first" ? 7 : -7;
    grip.append(
      made("rect", { class: "grip-room", x: x - 14, y: top, width: 28, height: bottom - top }),
      made("path", { d: `M${x} ${top}v${bottom - top}M${x} ${top}h${inward}l${-inward} 8zM${x} ${bottom}h${inward}l${-inward} -8z` }),
    );
    /** @type {{x: number, lines: number[]} | null} */
    let grabbed = null;
    grip.addEventListener("pointerdown", (event) => {
      event.stopPropagation();
      event.preventDefault();
      grabbed = { x: event.clientX, lines: [...(record?.lines ?? [])] };
      const drag = (moved) => {
        if (!grabbed) return;
        const scale = strands.querySelector("svg.strands")?.getScreenCTM()?.a ?? 1;
        lay(which, (moved.clientX - grabbed.x) / scale / pixelsASecond, grabbed.lines, false);
      };
      const drop = () => {
        removeEventListener("pointermove", drag);
        removeEventListener("pointerup", drop);
        grabbed = null;
        if (record) fitted(record.lines, true);
        focus(which);
      };
      addEventListener("pointermove", drag);
      addEventListener("pointerup", drop);
    });
    grip.addEventListener("keydown", (event) => {
      const way = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[event.key];
      if (!way || event.altKey || event.ctrlKey) return;
      event.preventDefault();
      event.stopPropagation();
      lay(which, way * (event.shiftKey ? 0.001 : 0.01), record?.lines ?? [], true);
      focus(which);
    });
    return grip;
  }

  const focus = (which) => strands.querySelector(`[data-grip="${which}"]`)?.focus({ preventScroll: true });
  const seconds = (which) => (which === "first" ? record?.lines[0] : record?.lines[record.lines.length - 1]) ?? 0;

  /** The first handle moves all bar lines, the last one draws them out from the first. */
  function lay(which, by, lines, done) {
    if (!record) return;
    const [first, last] = [lines[0], lines[lines.length - 1]];
    const factor = (last - first + by) / (last - first);
    if (which === "last" && (factor < 0.2 || factor > 5)) return;
    record.lines = lines.map((line) => (which === "first" ? Math.max(0, first + by) + line - first : first + (line - first) * factor));
    draw();
    fitted(record.lines, done);
  }

  function made(name, attributes) {
    const element = document.createElementNS(svgName, name);
    for (const [key, value] of Object.entries(attributes)) element.setAttribute(key, String(value));
    return element;
  }

  root.addEventListener("placed", (event) => hear(/** @type {CustomEvent} */ (event).detail));
  strands.closest("section")?.addEventListener("redrawn", draw);
  return { hear, draw };
}
