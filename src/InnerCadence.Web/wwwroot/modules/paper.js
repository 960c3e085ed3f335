// The count lines as they are typed: colours behind the letters, beads lit under the caret, a line for a voice that has none.
import { completion, voicesOf } from "./completion.js";
import { moves } from "./moves.js";

/** @param {any} page The bench. */
export function paper(page) {
  const { text, strands, write } = page;
  const under = document.createElement("pre");
  under.className = "under counts";
  under.setAttribute("aria-hidden", "true");
  const frame = document.createElement("div");
  frame.className = "paper";
  text.before(frame);
  frame.append(under, text);
  const add = document.getElementById("add-line");
  const complete = completion(text, frame, voicesOf(add), write);

  /** @type {{colours: any[], places: any[], problems: any[]}} */
  let answer = { colours: [], places: [], problems: [] };
  const looks = new Map(); // a line's text -> its colours, so that what is typed next keeps them
  /** @type {any[]} */
  let lit = [];

  function paint(read, typed) {
    answer = read;
    looks.clear();
    typed.split("\n").forEach((line, i) =>
      looks.set(
        line,
        read.colours.filter(([row]) => row === i + 1).map(([, column, length, look]) => [column - 1, length, look]),
      ),
    );
    repaint();
    lightUnderCaret();
  }

  function repaint() {
    const faulty = answer.problems.filter((problem) => problem.line);
    under.replaceChildren(
      ...text.value.split("\n").flatMap((line, i) => {
        const marks = [...(looks.get(line) ?? [])];
        const known = looks.has(line);
        const bad = known ? faulty.filter((problem) => problem.line === i + 1) : [];
        const shine = known ? lit.filter(([, , row]) => row === i + 1) : [];
        return [...pieces(line, marks, bad, shine), document.createTextNode("\n")];
      }),
    );
    follow();
  }

  // Cuts a line where any look begins or ends.
  function pieces(line, marks, bad, shine) {
    const cuts = new Set([0, line.length]);
    const spans = [
      ...marks,
      ...bad.map(({ column, length, severity }) => [column - 1, length, severity]),
      ...shine.map(([, , , column, length]) => [column - 1, length, "lit"]),
    ];
    for (const [from, length] of spans) {
      cuts.add(Math.min(from, line.length));
      cuts.add(Math.min(from + length, line.length));
    }
    const sorted = [...cuts].sort((a, b) => a - b);
    return sorted.slice(0, -1).map((from, i) => {
      const names = spans.filter(([at, length]) => at <= from && from < at + length).map(([, , look]) => look);
      if (!names.length) return document.createTextNode(line.slice(from, sorted[i + 1]));
      const piece = document.createElement("span");
      piece.className = names.map((name) => `c-${name}`).join(" ");
      piece.textContent = line.slice(from, sorted[i + 1]);
      return piece;
    });
  }

  function grow() {
    text.rows = Math.min(24, Math.max(6, text.value.split("\n").length + 1));
  }

  function follow() {
    under.scrollTop = text.scrollTop;
    under.scrollLeft = text.scrollLeft;
  }

  // Places of the text and beads of the pictures point at each other.
  const at = (offset) => {
    const before = text.value.slice(0, offset).split("\n");
    return [before.length, before.at(-1).length + 1];
  };
  function under_(from, to) {
    const [[line, column], [endLine, endColumn]] = [at(from), at(to)];
    return answer.places.filter(
      ([, , row, start, length]) =>
        (row > line || (row === line && start + length >= column && (from !== to ? start + length > column : true))) &&
        (row < endLine || (row === endLine && start <= endColumn && (from !== to ? start < endColumn : true))),
    );
  }
  function chosen() {
    const found = under_(text.selectionStart, text.selectionEnd);
    return found.map(([tick, voice]) => ({ at: tick, voice }));
  }
  function light(places) {
    lit = places;
    for (const bead of document.querySelectorAll(".bench .lit")) bead.classList.remove("lit");
    for (const [tick, voice] of places) {
      for (const bead of document.querySelectorAll(`.bench svg [data-tick="${tick}"]`)) {
        if (bead.dataset.voice === voice || bead.dataset.voices?.split(" ").includes(voice)) bead.classList.add("lit");
      }
    }
    repaint();
  }
  const lightUnderCaret = () => {
    if (document.activeElement === text) light(under_(text.selectionStart, text.selectionEnd));
  };
  document.addEventListener("selectionchange", () => {
    if (document.activeElement === text) lightUnderCaret();
  });
  strands.addEventListener("pointerover", (event) => {
    const bead = event.target.closest("[data-tick][data-voice]");
    if (bead) light(answer.places.filter(([tick, voice]) => tick === Number(bead.dataset.tick) && voice === bead.dataset.voice));
  });
  strands.addEventListener("pointerleave", () => light([]));
  text.addEventListener("blur", () => light([]));

  /** A line for a voice that has none: as many silent bars as the passage has, the caret in the first. */
  function addLine(code) {
    const bars = Math.max(1, page.last().bars ?? 1);
    const start = text.value.trimEnd();
    const head = `${start}${start ? "\n" : ""}${code}: `;
    const now = `${head}${Array(bars).fill("-").join(" | ")}\n`;
    write(now, head.length);
    text.focus();
    text.setSelectionRange(head.length, head.length + 1);
  }

  const move = moves(page, chosen);
  text.addEventListener("keydown", (event) => {
    if (!complete.key(event)) move(event);
  });
  text.addEventListener("input", () => {
    grow();
    repaint();
  });
  text.addEventListener("scroll", follow);
  new ResizeObserver(() => {
    under.style.height = `${text.offsetHeight}px`;
  }).observe(text);

  add.addEventListener("change", () => {
    if (add.value) addLine(add.value);
    add.value = "";
  });
  repaint();

  function select(line, column, length) {
    const start =
      text.value
        .split("\n")
        .slice(0, line - 1)
        .reduce((sum, row) => sum + row.length + 1, 0) +
      column -
      1;
    text.focus();
    text.setSelectionRange(start, start + length);
  }
  return { paint, select };
}
