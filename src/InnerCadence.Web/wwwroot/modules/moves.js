// Moves of the hand in the text: Alt and a letter, on the strokes under the caret or in the selection.

/** @param {any} page The bench. @param {() => {at: number, voice: string}[]} chosen The strokes under the caret or in the selection. */
export function moves(page, chosen) {
  const { text, strands, move } = page;
  const keys = {
    KeyX: () => strokes("remove"),
    KeyG: () => strokes("ghost"),
    KeyA: () => strokes("accent"),
    KeyO: () => strokes("open"),
    Comma: () => shift(-1),
    Period: () => shift(1),
    KeyB: repeatBar,
    KeyF: () => page.fixFirst(),
    Enter: () => page.fixFirst(),
    NumpadEnter: () => page.fixFirst(),
    KeyL: () => document.getElementById("add-line").focus(),
  };

  /** @param {string} what */
  function strokes(what) {
    const found = chosen();
    if (found.length) return again(() => move({ do: what, strokes: found }));
  }

  /** @param {-1 | 1} direction */
  function shift(direction) {
    const found = chosen();
    if (!found.length) return;
    const cells = [...strands.querySelectorAll(".cell")].map((cell) => Number(cell.dataset.tick));
    const i = cells.findLastIndex((tick) => tick <= found[0].at);
    const to = direction > 0 ? cells[i + 1] : cells[i] < found[0].at ? cells[i] : cells[i - 1];
    if (to !== undefined) return again(() => move({ do: "shift", strokes: found, by: to - found[0].at }));
  }

  function repeatBar() {
    const found = chosen();
    const starts = JSON.parse(strands.querySelector("svg")?.dataset.bars ?? "[]");
    const bar = found.length ? starts.findLastIndex((/** @type {number} */ tick) => tick <= found[0].at) + 1 : starts.length;
    if (bar > 0) return again(() => move({ do: "repeat-bar", bar }));
  }

  /** The caret stays by what it was on. @param {() => Promise<boolean>} does */
  async function again(does) {
    const caret = text.selectionStart;
    if (await does()) text.setSelectionRange(caret, caret);
  }

  /** @param {KeyboardEvent} event */
  return function key(event) {
    const does = keys[event.code];
    if (!does || !event.altKey || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    page.press(does);
  };
}
