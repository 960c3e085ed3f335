// Completion: at the start of a line, the voices that begin like what is typed. Which voices there are, the page's list of lines to add
// says.

/** @typedef {{code: string, name: string}} Voice */

/** @param {HTMLSelectElement} from @returns {Voice[]} */
export const voicesOf = (from) =>
  [...from.options].filter(({ value }) => value).map(({ value, dataset }) => ({ code: value, name: dataset.name ?? "" }));

/**
 * @param {HTMLTextAreaElement} text
 * @param {HTMLElement} frame Where the list is shown, around the text.
 * @param {Voice[]} voices
 * @param {(now: string, caret: number) => void} write
 */
export function completion(text, frame, voices, write) {
  const list = document.createElement("ul");
  list.className = "completion";
  list.id = "completion";
  list.setAttribute("role", "listbox");
  list.setAttribute("aria-label", "Voices");
  list.hidden = true;
  frame.append(list);
  // A field of several lines is no combobox by its role, but says the same of itself.
  text.setAttribute("aria-autocomplete", "list");
  text.setAttribute("aria-haspopup", "listbox");
  text.setAttribute("aria-controls", list.id);

  /** @type {Voice[]} */
  let options = [];
  let marked = 0;
  const before = () => text.value.slice(0, text.selectionStart).split("\n");

  function offer() {
    const above = before();
    const typed = above.at(-1) ?? "";
    const rest = text.value.slice(text.selectionStart).split("\n")[0];
    if (!/^\s*[A-Za-z]\w?$/.test(typed) || rest.trim()) return close();
    const word = typed.trim().toLowerCase();
    options = voices.filter(({ code, name }) => code.toLowerCase().startsWith(word) || name.startsWith(word)).slice(0, 6);
    if (!options.length) return close();
    marked = 0;
    show();
  }

  function show() {
    list.hidden = false;
    list.replaceChildren(
      ...options.map(({ code, name }, i) => {
        const item = document.createElement("li");
        item.id = `completion-${i}`;
        item.setAttribute("role", "option");
        item.setAttribute("aria-selected", String(i === marked));
        item.textContent = `${code}  ${name}`;
        item.addEventListener("pointerdown", (event) => {
          event.preventDefault();
          take(i);
        });
        return item;
      }),
    );
    text.setAttribute("aria-activedescendant", `completion-${marked}`);
    const height = parseFloat(getComputedStyle(text).lineHeight);
    list.style.top = `${10 + before().length * height - text.scrollTop}px`;
  }

  function close() {
    list.hidden = true;
    options = [];
    text.removeAttribute("aria-activedescendant");
  }

  /** @param {number} i */
  function take(i) {
    const lines = text.value.split("\n");
    const row = before().length - 1;
    lines[row] = `${options[i].code}: `;
    close();
    write(lines.join("\n"), lines.slice(0, row + 1).join("\n").length);
  }

  /** Whether the key was for the list. @param {KeyboardEvent} event */
  function key(event) {
    if (list.hidden) return false;
    if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      marked = (marked + (event.key === "ArrowDown" ? 1 : options.length - 1)) % options.length;
      show();
    } else if (event.key === "Tab" || event.key === "Enter") take(marked);
    else if (event.key === "Escape") {
      event.stopPropagation();
      close();
      return true;
    } else return false;
    event.preventDefault();
    return true;
  }

  text.addEventListener("input", offer);
  // Whoever comes back at once goes on choosing.
  text.addEventListener("blur", () =>
    setTimeout(() => {
      if (document.activeElement !== text) close();
    }, 150),
  );
  return { key };
}
