// The strands under pointer and keys: a place is chosen, a stroke set, changed or moved, a span picked. The text follows.
const svgName = "http://www.w3.org/2000/svg";

export function strokes(page) {
  const { strands, move, said } = page;
  const [from, to] = ["from", "to"].map((id) => document.getElementById(id));
  const bar = document.getElementById("strokes");
  bar.hidden = false;
  /** @typedef {{cell: number, row: number}} Place Which count, which strand. */
  /** @type {Place | null} */
  let place = null;
  /** @type {number | null} */
  let anchor = null;
  /** @type {{from: Place, stroke: boolean} | null} A drag picks; it moves a stroke that is chosen already, or with Alt. */
  let drag = null;
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
    "Strands. Arrows choose a count and a strand, Space sets or takes a stroke, G ghost, A accent, O open, Alt with arrows moves it, Shift with arrows picks a span.",
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
    const stroke = bead(tickOf(place.cell), code(place.row));
    if (tell)
      document.getElementById("at").textContent =
        stroke?.querySelector("title")?.textContent ?? `${rows()[place.row][1]}, ${words(place.cell)}: silent`;
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
    return { cell, row: distances.indexOf(near), on: near <= 12 };
  }

  strands.addEventListener("pointerdown", (event) => {
    if (event.target.closest("a")) return;
    const at = under(event);
    if (!at) return;
    event.preventDefault();
    strands.focus({ preventScroll: true });
    const chosenAlready = place !== null && place.cell === at.cell && place.row === at.row && anchor === place.cell;
    drag = { from: at, stroke: at.on && bead(tickOf(at.cell), code(at.row)) !== null && (event.altKey || chosenAlready) };
    if (moved) moved.hidden = true;
    [place, anchor] = [at, at.cell];
    pick(anchor, anchor);
    show();
  });
  strands.addEventListener("pointermove", (event) => {
    if (event.buttons !== 1 || !drag) return;
    const at = under(event);
    if (!at) return;
    place = at;
    if (!drag.stroke) pick(anchor, at.cell);
    show(false);
  });
  window.addEventListener("pointerup", () => {
    const from = drag?.stroke ? drag.from : null;
    drawn = drag !== null && place !== null && drag.from.cell !== place.cell;
    drag = null;
    if (from && place && (from.cell !== place.cell || from.row !== place.row)) shift(from, place);
  });
  // A press twice sets or takes a stroke; one that was drawn along is none.
  let drawn = false;
  strands.addEventListener("dblclick", (event) => {
    if (!drawn && under(event)) toggle();
  });

  const here = () => (place ? [{ at: tickOf(place.cell), voice: code(place.row) }] : []);
  function chosen() {
    if (!place || anchor === null || anchor === place.cell) return here();
    const own = code(place.row);
    const [first, last] = [tickOf(Math.min(anchor, place.cell)), tickOf(Math.max(anchor, place.cell))];
    return [...strands.querySelectorAll("[data-tick][data-voice]")]
      .map((one) => ({ at: Number(one.dataset.tick), voice: one.dataset.voice }))
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
    page.text.focus({ preventScroll: true });
    document.execCommand(again ? "redo" : "undo");
    strands.focus({ preventScroll: true });
    if (moved) moved.hidden = true;
  }
  document.getElementById("undo-move")?.addEventListener("click", () => undo());
  async function step(cellsOn, rowsOn) {
    if (!place) return;
    const next = { cell: place.cell + cellsOn, row: place.row + rowsOn };
    if (next.cell < 0 || next.cell >= cells().length || next.row < 0 || next.row >= rows().length) return;
    const many = chosen();
    const by = tickOf(next.cell) - tickOf(place.cell);
    if (await move({ do: "shift", strokes: many, by, voice: rowsOn ? code(next.row) : undefined })) {
      if (anchor !== null) anchor += cellsOn;
      place = next;
    }
  }
  const acts = {
    stroke: toggle,
    ghost: () => move({ do: "ghost", strokes: chosen() }),
    accent: () => move({ do: "accent", strokes: chosen() }),
    open: () => move({ do: "open", strokes: chosen() }),
    earlier: () => step(-1, 0),
    later: () => step(1, 0),
    higher: () => step(0, -1),
    lower: () => step(0, 1),
  };
  const keys = { " ": "stroke", Enter: "stroke", Delete: "stroke", g: "ghost", a: "accent", o: "open" };

  strands.addEventListener("keydown", (event) => {
    if (event.ctrlKey && event.key.toLowerCase() === "z") {
      event.preventDefault();
      undo(event.shiftKey);
      return;
    }
    if (event.ctrlKey || event.metaKey) return;
    const arrow = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1], Home: [-Infinity, 0], End: [Infinity, 0] }[
      event.key
    ];
    if (!arrow && !keys[event.key]) return;
    if (keys[event.key] && event.altKey) return;
    event.preventDefault();
    event.stopPropagation();
    if (!place) {
      [place, anchor] = [{ cell: 0, row: 0 }, 0];
      if (arrow) return show();
    }
    if (!arrow) return acts[keys[event.key]]();
    if (event.altKey) return step(...arrow);
    const last = cells().length - 1;
    place.cell = Math.min(last, Math.max(0, place.cell + arrow[0]));
    place.row = Math.min(rows().length - 1, Math.max(0, place.row + arrow[1]));
    if (!event.shiftKey) anchor = place.cell;
    pick(anchor, place.cell);
    show();
  });

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
    redrawn() {
      if (place) show(document.activeElement === strands);
      if (place && anchor !== null && anchor !== place.cell) pick(anchor, place.cell);
    },
  };
}
