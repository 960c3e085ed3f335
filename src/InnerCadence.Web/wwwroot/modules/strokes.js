// The strands under finger, pointer and keys: a place is chosen, a stroke set, changed or moved, a span picked. The text follows.
import { strokeMenu } from "./strokemenu.js";
import { writeOn } from "./writeon.js";

const svgName = "http://www.w3.org/2000/svg";
const heldFor = 500;

export function strokes(page) {
  const { strands, said } = page;
  const [from, to] = ["from", "to"].map((id) => document.getElementById(id));
  const bar = document.getElementById("strokes");
  bar.hidden = false;
  /** @typedef {{cell: number, row: number}} Place Which count, which strand. */
  /** @type {Place | null} */
  let place = null;
  /** @type {number | null} */
  let anchor = null;
  /** @type {{from: Place, stroke: boolean, sets: boolean} | null} A drag picks; it moves a stroke that is chosen already, or with Alt. A
   * press that goes nowhere sets a stroke, or turns one that is chosen. */
  let drag = null;
  /** @type {ReturnType<typeof setTimeout> | undefined} A finger that stays asks for more. */
  let holding;
  /** What is chosen, by its music: counts and strands may come and go between. */
  let held = { tick: 0, code: "" };
  const [picked, moved] = ["picked", "moved"].map((id) => document.getElementById(id));

  const svg = () => strands.querySelector("svg.strands");
  const cells = () => [...strands.querySelectorAll(".cell")];
  const rows = () => JSON.parse(svg()?.dataset.voices ?? "[]");
  const tickOf = (cell) => Number(cells()[cell]?.dataset.tick);
  const code = (row) => rows()[row]?.[0];
  const bead = (tick, voice) => strands.querySelector(`[data-tick="${tick}"][data-voice="${voice}"]`);
  const words = (i) => cells()[i]?.dataset.from;

  strands.tabIndex = 0;
  strands.setAttribute("role", "application");
  strands.setAttribute(
    "aria-label",
    "Strands. Arrows choose a count and a strand, Space sets or takes a stroke, a full stop has its marks, 2 3 4 6 8 divide the beat, " +
      "Plus adds a bar, Minus takes the last out, B the last bar again, Alt with arrows moves a stroke, Shift with arrows picks a span.",
  );
  strands.setAttribute("aria-describedby", "at");

  function show(tell = true) {
    svg()?.querySelector(".cursor")?.remove();
    if (!place || !cells().length) return;
    place.cell = Math.min(place.cell, cells().length - 1);
    place.row = Math.min(place.row, rows().length - 1);
    const cell = cells()[place.cell];
    const top = Number(cell.dataset.top) + rows()[place.row][2];
    const cursor = document.createElementNS(svgName, "rect");
    for (const [name, value] of [
      ["class", "cursor"],
      ["x", cell.getAttribute("x")],
      ["width", Math.min(20, cell.getAttribute("width"))],
      ["y", top - 10],
      ["height", 20],
      ["rx", 2],
    ])
      cursor.setAttribute(name, value);
    cell.parentNode.after(cursor);
    held = { tick: tickOf(place.cell), code: code(place.row) };
    const stroke = bead(tickOf(place.cell), code(place.row));
    if (!tell) return;
    const sounds = stroke?.querySelector("title")?.textContent;
    document.getElementById("at").textContent = sounds
      ? `${words(place.cell)}: ${sounds}`
      : `${rows()[place.row][1]}, ${words(place.cell)}: silent`;
  }

  function pick(a, b) {
    const all = cells();
    const [first, last] = [Math.min(a, b), Math.max(a, b)];
    all.forEach((cell, i) => cell.classList.toggle("picked", a !== b && i >= first && i <= last));
    if (all.length && from && page.canCut()) [from.value, to.value] = [all[first].dataset.from, all[last].dataset.to];
    offer(a !== b ? all[last] : null);
  }

  /** What can be done with what is picked stands at its end. */
  function offer(cell) {
    picked.hidden = !cell;
    if (!cell) return;
    for (const one of picked.querySelectorAll("[data-saved]")) one.hidden = !page.canCut();
    const [room, box] = [picked.parentElement.getBoundingClientRect(), cell.getBoundingClientRect()];
    picked.style.left = `${Math.max(0, Math.min(room.width - picked.offsetWidth, box.right - room.left - picked.offsetWidth))}px`;
    picked.style.top = `${box.bottom - room.top + 2}px`;
  }

  const transport = (looped) => {
    const [span, loop, play] = ["span", "loop", "play"].map((part) => document.querySelector(`[data-player] [data-part=${part}]`));
    loop.checked = looped;
    span.value = "picked";
    span.dispatchEvent(new Event("change"));
    if (play.closest("[data-player]").dataset.state !== "playing") play.click();
  };
  const offers = {
    hear: () => transport(false),
    loop: () => transport(true),
    name: () => document.querySelector("#cut button:not([formaction])").click(),
    rhythm: () => document.querySelector("#cut [formaction]").click(),
    hands: () => document.querySelector("a[href$='/hands']").click(),
  };
  for (const button of picked.querySelectorAll("[data-picked]")) button.addEventListener("click", () => offers[button.dataset.picked]());

  // Where a pointer is, in counts and strands; nothing outside them.
  function under(event) {
    const picture = svg();
    if (!picture) return null;
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(picture.getScreenCTM().inverse());
    const cell = cells().findIndex((one) => {
      const [x, y, width, height] = ["x", "y", "width", "height"].map((name) => Number(one.getAttribute(name)));
      return point.x >= x && point.x < x + width && point.y >= y && point.y < y + height;
    });
    if (cell < 0) return null;
    const top = Number(cells()[cell].dataset.top);
    const distances = rows().map(([, , y]) => Math.abs(top + y - point.y));
    const near = Math.min(...distances);
    return { cell, row: distances.indexOf(near), on: near <= (event.pointerType === "touch" ? 24 : 12) };
  }

  const barOf = (tick) => JSON.parse(svg()?.dataset.bars ?? "[0]").findLastIndex((start) => start <= tick);
  const more = writeOn(page, () => (place ? { tick: tickOf(place.cell), bar: barOf(tickOf(place.cell)) } : null));
  const move = (what) => {
    more.keep();
    return page.move(what);
  };
  const menu = strokeMenu({ ...page, move }, {
    at: () => here()[0] ?? null,
    choice,
    box: () => strands.querySelector(".cursor")?.getBoundingClientRect() ?? strands.getBoundingClientRect(),
  });

  function choose(at) {
    strands.focus({ preventScroll: true });
    [place, anchor] = [at, at.cell];
    pick(anchor, anchor);
    show();
  }

  strands.addEventListener("pointerdown", (event) => {
    if (event.target.closest("a, .press") || event.button !== 0) return;
    const at = under(event);
    if (!at) return;
    event.preventDefault();
    menu.close();
    const chosenAlready = place !== null && place.cell === at.cell && place.row === at.row && anchor === place.cell;
    const stroke = bead(tickOf(at.cell), code(at.row)) !== null;
    const touch = event.pointerType === "touch";
    drag = {
      from: at,
      stroke: at.on && stroke && (event.altKey || chosenAlready),
      sets: at.on && (touch || ((!stroke || chosenAlready) && !event.altKey && !event.shiftKey)),
    };
    if (moved) moved.hidden = true;
    choose(at);
    if (touch) holding = setTimeout(() => ask(at), heldFor);
  });
  strands.addEventListener("pointermove", (event) => {
    if (event.buttons !== 1 || !drag) return;
    const at = under(event);
    if (!at) return;
    if (at.cell !== drag.from.cell || at.row !== drag.from.row) clearTimeout(holding);
    place = at;
    if (!drag.stroke) pick(anchor, at.cell);
    show(false);
  });
  window.addEventListener("pointerup", () => {
    clearTimeout(holding);
    const was = drag;
    drag = null;
    if (!was || !place) return;
    const still = was.from.cell === place.cell && was.from.row === place.row;
    if (still && was.sets) move({ do: "turn", strokes: here() });
    else if (!still && was.stroke) shift(was.from, place);
  });
  // A finger that draws along the counts, or takes a stroke anywhere, does not scroll; one that goes up or down does.
  /** @type {{x: number, y: number} | null} */
  let touched = null;
  strands.addEventListener(
    "touchstart",
    (event) => {
      touched = event.touches.length === 1 ? { x: event.touches[0].clientX, y: event.touches[0].clientY } : null;
    },
    { passive: true },
  );
  strands.addEventListener(
    "touchmove",
    (event) => {
      if (!drag || !touched || !event.cancelable) return;
      const [across, down] = [Math.abs(event.touches[0].clientX - touched.x), Math.abs(event.touches[0].clientY - touched.y)];
      if (drag.stroke || across > down) event.preventDefault();
    },
    { passive: false },
  );
  window.addEventListener("pointercancel", () => {
    clearTimeout(holding);
    drag = null;
  });
  function ask(at) {
    clearTimeout(holding);
    drag = null;
    choose(at);
    menu.open();
  }
  strands.addEventListener("contextmenu", (event) => {
    const at = under(event);
    if (!at) return;
    event.preventDefault();
    if (!menu.isOpen()) ask(at);
  });

  const spans = () => place !== null && anchor !== null && anchor !== place.cell;
  const here = () => (place ? [{ at: tickOf(place.cell), voice: code(place.row) }] : []);
  /** What is chosen now; of a span the strokes that are on it when it is asked. */
  function choice() {
    const one = here();
    if (!place || anchor === null || !spans()) return () => one;
    const own = code(place.row);
    const [first, last] = [tickOf(Math.min(anchor, place.cell)), tickOf(Math.max(anchor, place.cell))];
    return () =>
      [...strands.querySelectorAll("[data-tick][data-voice]")]
        .map((bead) => ({ at: Number(bead.dataset.tick), voice: bead.dataset.voice }))
        .filter(({ at, voice }) => at >= first && at <= last && voice === own);
  }
  const toggle = () => move({ do: "toggle", strokes: here() });
  async function shift(a, b) {
    const done = await move({
      do: "shift",
      strokes: [{ at: tickOf(a.cell), voice: code(a.row) }],
      by: tickOf(b.cell) - tickOf(a.cell),
      voice: code(b.row),
    });
    if (done && moved) moved.hidden = false;
  }
  function undo(again = false) {
    if (moved) moved.hidden = true;
    strands.focus({ preventScroll: true });
    return page.undo(again);
  }
  document.getElementById("undo-move")?.addEventListener("click", () => undo());
  async function step(cellsOn, rowsOn) {
    if (!place) return;
    const next = { cell: place.cell + cellsOn, row: place.row + rowsOn };
    if (next.cell < 0 || next.cell >= cells().length || next.row < 0 || next.row >= rows().length) return;
    const strokes = choice();
    const by = tickOf(next.cell) - tickOf(place.cell);
    const voice = rowsOn ? code(next.row) : undefined;
    if (await move(() => ({ do: "shift", strokes: strokes(), by, voice }))) {
      if (anchor !== null) anchor += cellsOn;
      place = next;
      show();
    }
  }
  const acts = {
    stroke: toggle,
    ghost: () => menu.mark("ghost"),
    accent: () => menu.mark("accent"),
    open: () => menu.mark("open"),
    more: () => menu.open(),
    undo: () => undo(),
    bar: () => onward({ do: "add-bar" }),
    again: () => onward(),
    less: () => move({ do: "drop-bar" }),
    meter: () => more.askMeter(),
    strand: () => document.getElementById("add-strand").focus(),
    earlier: () => step(-1, 0),
    later: () => step(1, 0),
    higher: () => step(0, -1),
    lower: () => step(0, 1),
  };
  const keys = { " ": "stroke", Enter: "stroke", Delete: "stroke", ".": "more", ContextMenu: "more", "+": "bar", "-": "less", b: "again",
      m: "meter", v: "strand" };
  /** One more bar, and the place goes on to it. */
  async function onward(what) {
    const { tick, code: own } = held;
    const last = () => ({ do: "repeat-bar", bar: JSON.parse(svg()?.dataset.bars ?? "[]").length });
    if (!(await move(what ?? last))) return;
    await page.settled();
    // Whoever went on meanwhile is not taken back.
    if (held.tick !== tick || held.code !== own) return;
    const start = JSON.parse(svg()?.dataset.bars ?? "[0]").at(-1);
    page.choose(start, held.code);
  }

  strands.addEventListener("keydown", (event) => {
    if (event.ctrlKey && event.key.toLowerCase() === "z") {
      event.preventDefault();
      const again = event.shiftKey;
      page.press(() => undo(again));
      return;
    }
    if (event.ctrlKey || event.metaKey) return;
    const arrow = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1], Home: [-Infinity, 0], End: [Infinity, 0] }[
      event.key
    ];
    const mark = event.altKey ? null : menu.markOf(event.key);
    const divides = !event.altKey && /^[23468]$/.test(event.key);
    const act = event.altKey ? null : event.shiftKey && event.key === "F10" ? "more" : keys[event.key];
    if (!arrow && !mark && !act && !divides) return;
    event.preventDefault();
    event.stopPropagation();
    const { altKey, shiftKey, key } = event;
    page.press(() => {
      if (!place) {
        [place, anchor] = [{ cell: 0, row: 0 }, 0];
        show();
        if (arrow) return;
      }
      if (divides) return more.divide(Number(key));
      if (mark) return menu.mark(mark);
      if (act) return acts[act]();
      if (altKey) return step(...arrow);
      go(arrow, shiftKey);
    });
  });

  function go([across, down], spanning) {
    if (!place) return;
    place.cell = Math.min(cells().length - 1, Math.max(0, place.cell + across));
    place.row = Math.min(rows().length - 1, Math.max(0, place.row + down));
    if (!spanning) anchor = place.cell;
    pick(anchor, place.cell);
    show();
  }

  for (const button of bar.querySelectorAll("[data-act]")) {
    button.addEventListener("click", () => {
      if (place) acts[button.dataset.act]();
      else said.textContent = "Choose a place on the strands first: click it, or go there with Tab and the arrows.";
    });
  }

  return {
    choose(tick, voice) {
      const [cell, row] = [cells().findIndex((one) => Number(one.dataset.tick) === tick), rows().findIndex(([own]) => own === voice)];
      if (cell < 0) return;
      [place, anchor] = [{ cell, row: Math.max(0, row) }, cell];
      show();
    },
    view: more.view,
    redrawn() {
      if (place) {
        const span = anchor === null ? 0 : anchor - place.cell;
        const [cell, row] = [cells().findIndex((one) => Number(one.dataset.tick) === held.tick), rows()
            .findIndex(([own]) => own === held.code)];
        if (cell >= 0) [place.cell, anchor] = [cell, anchor === null ? null : Math.max(0, cell + span)];
        if (row >= 0) place.row = row;
        show(document.activeElement === strands);
      }
      if (place && anchor !== null && anchor !== place.cell) pick(anchor, place.cell);
    },
  };
}
