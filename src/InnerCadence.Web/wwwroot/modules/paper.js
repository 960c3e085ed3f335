// The count lines as they are typed: colours behind the letters, voices completed, keys for the common moves, beads lit under the caret.
const voices = [
  ["HH", "hat"], ["SN", "snare"], ["BD", "kick"], ["RD", "ride"], ["CR", "crash"], ["T1", "tom 1"], ["T2", "tom 2"], ["T3", "tom 3"], ["FT", "floor tom"], ["HF", "hat foot"],
  ["XS", "cross-stick"], ["RB", "ride bell"], ["CB", "cowbell"], ["C2", "crash 2"], ["SP", "splash"], ["CH", "china"], ["CY", "cymbal, not known which"], ["TT", "tom, not known which"], ["EN", "band"], ["ST", "hands"],
];

export function paper(page) {
  const { text, strands, write, move } = page;
  const under = document.createElement("pre");
  under.className = "under counts";
  under.setAttribute("aria-hidden", "true");
  const frame = document.createElement("div");
  frame.className = "paper";
  text.before(frame);
  frame.append(under, text);
  const list = document.createElement("ul");
  list.className = "completion";
  list.id = "completion";
  list.setAttribute("role", "listbox");
  list.setAttribute("aria-label", "Voices");
  // A field of several lines is no combobox by its role, but says the same of itself.
  text.setAttribute("aria-autocomplete", "list");
  text.setAttribute("aria-haspopup", "listbox");
  text.setAttribute("aria-controls", list.id);
  list.hidden = true;
  frame.append(list);

  let answer = { colours: [], places: [], problems: [] };
  const looks = new Map(); // a line's text -> its colours, so that what is typed next keeps them
  let lit = [];

  function paint(read, typed) {
    answer = read;
    looks.clear();
    typed.split("\n").forEach((line, i) => looks.set(line, read.colours.filter(([row]) => row === i + 1).map(([, column, length, look]) => [column - 1, length, look])));
    repaint();
    lightUnderCaret();
  }

  function repaint() {
    const faulty = answer.problems.filter((problem) => problem.line);
    under.replaceChildren(...text.value.split("\n").flatMap((line, i) => {
      const marks = [...(looks.get(line) ?? [])];
      const known = looks.has(line);
      const bad = known ? faulty.filter((problem) => problem.line === i + 1) : [];
      const shine = known ? lit.filter(([, , row]) => row === i + 1) : [];
      return [...pieces(line, marks, bad, shine), document.createTextNode("\n")];
    }));
    follow();
  }

  // Cuts a line where any look begins or ends.
  function pieces(line, marks, bad, shine) {
    const cuts = new Set([0, line.length]);
    const spans = [...marks, ...bad.map(({ column, length, severity }) => [column - 1, length, severity]), ...shine.map(([, , , column, length]) => [column - 1, length, "lit"])];
    for (const [from, length] of spans) { cuts.add(Math.min(from, line.length)); cuts.add(Math.min(from + length, line.length)); }
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
    return answer.places.filter(([, , row, start, length]) =>
      (row > line || (row === line && start + length >= column && (from !== to ? start + length > column : true))) && (row < endLine || (row === endLine && start <= endColumn && (from !== to ? start < endColumn : true))));
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
  const lightUnderCaret = () => { if (document.activeElement === text) light(under_(text.selectionStart, text.selectionEnd)); };
  document.addEventListener("selectionchange", () => { if (document.activeElement === text) lightUnderCaret(); });
  strands.addEventListener("pointerover", (event) => {
    const bead = event.target.closest("[data-tick][data-voice]");
    if (bead) light(answer.places.filter(([tick, voice]) => tick === Number(bead.dataset.tick) && voice === bead.dataset.voice));
  });
  strands.addEventListener("pointerleave", () => light([]));
  // Whoever comes back at once goes on choosing.
  text.addEventListener("blur", () => { light([]); setTimeout(() => { if (document.activeElement !== text) close(); }, 150); });

  // Completion: at the start of a line, the voices that begin like what is typed.
  let options = [];
  let marked = 0;
  function offer() {
    const [, column] = at(text.selectionStart);
    const line = text.value.split("\n")[at(text.selectionStart)[0] - 1];
    const typed = line.slice(0, column - 1);
    if (!/^\s*[A-Za-z]\w?$/.test(typed) || line.slice(column - 1).trim()) return close();
    const word = typed.trim().toLowerCase();
    options = voices.filter(([code, name]) => code.toLowerCase().startsWith(word) || name.startsWith(word)).slice(0, 6);
    if (!options.length) return close();
    marked = 0;
    show();
  }
  function show() {
    list.hidden = false;
    list.replaceChildren(...options.map(([code, name], i) => {
      const item = document.createElement("li");
      item.id = `completion-${i}`;
      item.setAttribute("role", "option");
      item.setAttribute("aria-selected", i === marked);
      item.textContent = `${code}  ${name}`;
      item.addEventListener("pointerdown", (event) => { event.preventDefault(); take(i); });
      return item;
    }));
    text.setAttribute("aria-activedescendant", `completion-${marked}`);
    const row = at(text.selectionStart)[0];
    const height = parseFloat(getComputedStyle(text).lineHeight);
    list.style.top = `${10 + row * height - text.scrollTop}px`;
  }
  function close() {
    list.hidden = true;
    options = [];
    text.removeAttribute("aria-activedescendant");
  }
  function take(i) {
    const [code] = options[i];
    const lines = text.value.split("\n");
    const row = at(text.selectionStart)[0] - 1;
    lines[row] = `${code}: `;
    const caret = lines.slice(0, row + 1).join("\n").length;
    close();
    write(lines.join("\n"), caret);
  }

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

  // Moves of the hand: Alt and a letter, on the strokes under the caret or in the selection.
  const moves = {
    KeyX: () => strokes("remove"), KeyG: () => strokes("ghost"), KeyA: () => strokes("accent"), KeyO: () => strokes("open"),
    Comma: () => shift(-1), Period: () => shift(1), KeyB: repeatBar, KeyF: () => page.fixFirst(), KeyL: () => document.getElementById("add-line").focus(),
  };
  function strokes(what) {
    const found = chosen();
    if (found.length) again(() => move({ do: what, strokes: found }));
  }
  function shift(direction) {
    const found = chosen();
    if (!found.length) return;
    const cells = [...strands.querySelectorAll(".cell")].map((cell) => Number(cell.dataset.tick));
    const i = cells.findLastIndex((tick) => tick <= found[0].at);
    const to = direction > 0 ? cells[i + 1] : cells[i] < found[0].at ? cells[i] : cells[i - 1];
    if (to !== undefined) again(() => move({ do: "shift", strokes: found, by: to - found[0].at }));
  }
  function repeatBar() {
    const found = chosen();
    const starts = JSON.parse(strands.querySelector("svg")?.dataset.bars ?? "[]");
    const bar = found.length ? starts.findLastIndex((tick) => tick <= found[0].at) + 1 : starts.length;
    if (bar > 0) again(() => move({ do: "repeat-bar", bar }));
  }
  // The caret stays by what it was on.
  async function again(does) {
    const caret = text.selectionStart;
    if (await does()) text.setSelectionRange(caret, caret);
  }

  text.addEventListener("keydown", (event) => {
    if (!list.hidden) {
      if (event.key === "ArrowDown" || event.key === "ArrowUp") {
        event.preventDefault();
        marked = (marked + (event.key === "ArrowDown" ? 1 : options.length - 1)) % options.length;
        show();
        return;
      }
      if (event.key === "Tab" || event.key === "Enter") { event.preventDefault(); take(marked); return; }
      if (event.key === "Escape") { event.stopPropagation(); close(); return; }
    }
    if (event.altKey && !event.ctrlKey && !event.metaKey && moves[event.code]) {
      event.preventDefault();
      moves[event.code]();
    }
  });
  text.addEventListener("input", () => { grow(); repaint(); offer(); });
  text.addEventListener("scroll", follow);
  new ResizeObserver(() => { under.style.height = `${text.offsetHeight}px`; }).observe(text);

  const add = document.getElementById("add-line");
  add.append(...voices.map(([code, name]) => new Option(`${code}  ${name}`, code)));
  add.addEventListener("change", () => { if (add.value) addLine(add.value); add.value = ""; });
  repaint();

  function select(line, column, length) {
    const start = text.value.split("\n").slice(0, line - 1).reduce((sum, row) => sum + row.length + 1, 0) + column - 1;
    text.focus();
    text.setSelectionRange(start, start + length);
  }
  return { paint, select };
}
