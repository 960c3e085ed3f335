// What the ear has beside the text: strokes that are only heard or only written, one by one, to be put in, taken out or left.
import { away, post } from "./page.js";

const svgName = "http://www.w3.org/2000/svg";
const by = (id) => document.getElementById(id);

/** @param {any} page The bench: its text, strands and moves. */
export function beside(page) {
  const root = by("beside");
  if (!root) return;
  const [list, said, agrees, eager] = ["beside-list", "beside-said", "beside-agrees", "beside-eager"].map(by);
  /** @typedef {{heard: boolean, at: number, voice: string, place: string, says: string, second: number, moves: string[]}} Difference */
  /** @type {Difference[]} */ let all = [];
  /** What was left as it is stays left. @type {Set<string>} */ const left = new Set();
  let [at, turn] = [-1, 0];
  /** @type {number | undefined} */ let timer;

  const key = (one) => `${one.heard} ${one.at} ${one.voice}`;
  const open = () => all.filter((one) => !left.has(key(one)));

  async function ask() {
    const mine = ++turn;
    const answer = await post(`${root.dataset.address}/beside`, {
      text: page.text.value,
      bar: by("Input_Bar").value,
      at: by("Input_StartsAt").value,
      eager: Number(eager.value),
    });
    if (mine !== turn) return;
    if (!answer) {
      said.textContent = away("what the ear has is not shown.");
      return;
    }
    const told = answer.status === 200 ? await answer.json() : null;
    root.hidden = !told;
    if (!told) return;
    all = told.differences;
    agrees.textContent = told.onRecord
      ? `On this record it agrees with you on ${told.onRecord}.`
      : told.agrees
        ? `Here it agrees with you on ${told.agrees}.`
        : "";
    show();
  }

  function show() {
    const shown = open();
    at = Math.min(at, shown.length - 1);
    list.replaceChildren(
      ...shown.map((one, i) => {
        const row = document.createElement("li");
        row.classList.toggle("at", i === at);
        const place = button(one.place, () => go(i));
        place.className = "plain place";
        const words = document.createElement("span");
        words.textContent = one.says;
        row.append(
          place,
          words,
          button(one.heard ? "put it in" : "take it out", () => take(i)),
          button("leave it", () => leave(i)),
        );
        return row;
      }),
    );
    said.textContent = shown.length ? "" : "Nothing is heard that is not written, and nothing written that is not heard.";
    mark(shown);
  }

  function button(words, does) {
    const made = document.createElement("button");
    [made.type, made.className, made.textContent] = ["button", "btn small", words];
    made.addEventListener("click", does);
    return made;
  }

  /** On the strands: a dashed ring where something is heard, or round what is not. */
  function mark(shown) {
    for (const old of page.strands.querySelectorAll(".only")) old.remove();
    const svg = page.strands.querySelector("svg.strands");
    if (!svg) return;
    const voices = JSON.parse(svg.dataset.voices);
    shown.forEach((one, i) => {
      const cell = page.strands.querySelector(`.cell[data-tick="${one.at}"]`);
      const row = voices.find(([code]) => code === one.voice);
      if (!cell || !row) return;
      const ring = document.createElementNS(svgName, "circle");
      const bead = page.strands.querySelector(`[data-tick="${one.at}"][data-voice="${one.voice}"] circle`);
      const x = bead ? bead.getAttribute("cx") : Number(cell.getAttribute("x")) + Math.min(8, Number(cell.getAttribute("width")) / 2);
      for (const [name, value] of [
        ["class", i === at ? "only now-at" : "only"],
        ["cx", x],
        ["cy", Number(cell.dataset.top) + row[2]],
        ["r", 8],
      ])
        ring.setAttribute(name, value);
      cell.parentNode.after(ring);
    });
  }

  function go(i) {
    const shown = open();
    if (!shown.length) return;
    at = (i + shown.length) % shown.length;
    page.choose(shown[at].at, shown[at].voice);
    show();
    list.children[at]?.scrollIntoView({ block: "nearest" });
  }

  async function take(i) {
    const one = open()[i];
    if (!one) return;
    // Gone from the list at once, whatever answer is still under way: whoever takes the next meanwhile does not take this one back.
    clearTimeout(timer);
    turn++;
    all = all.filter((other) => other !== one);
    show();
    for (const move of one.moves)
      if (!(await page.move({ do: move, strokes: [{ at: one.at, voice: one.voice }] }))) {
        ask();
        return;
      }
    page.choose(one.at, one.voice);
  }

  function leave(i) {
    const one = open()[i];
    if (!one) return;
    left.add(key(one));
    show();
  }

  const later = () => {
    clearTimeout(timer);
    timer = setTimeout(ask, 250);
  };
  page.strands.closest("section").addEventListener("redrawn", later);
  document.querySelector("[data-player]")?.addEventListener("placed", later);
  eager.addEventListener("input", later);
  document.addEventListener("keydown", (event) => {
    if (!event.altKey || event.ctrlKey || event.metaKey || root.hidden) return;
    const does = { BracketRight: () => go(at + 1), BracketLeft: () => go(at - 1), KeyY: () => take(at), KeyH: () => leave(at) }[event.code];
    if (!does) return;
    event.preventDefault();
    does();
  });
  ask();
}
