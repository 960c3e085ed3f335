// All that a stroke can have, on a long press, a right click or a full stop: each on its letter.

/**
 * @param {any} page The bench.
 * @param {{at: () => any, choice: () => () => any[], box: () => DOMRect}} on What is chosen, told once all before is drawn, and where it is
 * seen.
 */
export function strokeMenu(page, on) {
  const menu = document.getElementById("stroke-menu");
  const [grace, note] = ["grace-on", "technique"].map((id) => document.getElementById(id));
  const buttons = [...menu.querySelectorAll("[data-mark]")];

  /** A mark for what is chosen; on an empty place the stroke comes with it. */
  function does(what) {
    close();
    const strokes = on.choice();
    return on.at() && page.move(() => ({ ...what, sets: true, strokes: strokes() }));
  }
  const mark = (/** @type {string} */ word) => does({ do: "mark", mark: word });

  function open() {
    if (!on.at()) return;
    const strand = page.voices().length ? on.at().voice : "";
    for (const button of buttons) button.hidden = button.dataset.only && !button.dataset.only.split(" ").includes(strand);
    menu.hidden = false;
    const [room, box] = [menu.parentElement.getBoundingClientRect(), on.box()];
    menu.style.left = `${Math.max(0, Math.min(room.width - menu.offsetWidth, box.left - room.left))}px`;
    menu.style.top = `${box.bottom - room.top + 6}px`;
    buttons[0].focus();
  }
  function close() {
    if (menu.hidden) return;
    const within = menu.contains(document.activeElement);
    menu.hidden = true;
    if (within) page.strands.focus({ preventScroll: true });
  }

  menu.addEventListener("click", (event) => {
    const button = event.target.closest("[data-mark], [data-takes]");
    if (!button) return;
    if (button.dataset.mark) mark(button.dataset.mark);
    else {
      close();
      const strokes = on.choice();
      if (on.at()) page.move(() => ({ do: "remove", strokes: strokes() }));
    }
  });
  grace.addEventListener("change", () => {
    if (grace.value) does({ do: "grace", voice: grace.value });
    grace.value = "";
  });
  note.addEventListener("change", () => {
    if (note.value.trim()) does({ do: "note", mark: note.value.trim() });
    note.value = "";
  });
  menu.addEventListener("keydown", (event) => {
    event.stopPropagation();
    const steps = { ArrowDown: 1, ArrowRight: 1, ArrowUp: -1, ArrowLeft: -1 }[event.key];
    if (event.key === "Escape") close();
    else if (event.target === note) return;
    else if (steps && event.target !== grace) {
      const offered = [...menu.querySelectorAll("button:not([hidden])")];
      offered.at((offered.indexOf(document.activeElement) + steps) % offered.length)?.focus();
    } else if (markOf(event.key) && event.target !== grace) mark(markOf(event.key));
    else return;
    event.preventDefault();
  });
  document.addEventListener("pointerdown", (event) => {
    if (!menu.contains(event.target)) close();
  });

  const markOf = (/** @type {string} */ key) => buttons.find((button) => button.dataset.key === key)?.dataset.mark;
  return { open, close, mark, markOf, isOpen: () => !menu.hidden };
}
