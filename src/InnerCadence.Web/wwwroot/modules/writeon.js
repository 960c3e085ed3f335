// What is pressed beside the counts: a beat in other parts, one more bar, another meter, another strand.

/** @param {any} page The bench. @param {() => {tick: number, bar: number} | null} at What is chosen. */
export function writeOn(page, at) {
  const { strands } = page;
  const [set, wanted, add] = ["meter-set", "meter-wanted", "add-strand"].map((id) => document.getElementById(id));
  const next = { 4: 3, 3: 6, 6: 8, 8: 2, 2: 4 };
  const own = `divided ${location.pathname} ${page.text.form?.elements.begun?.value ?? ""}`;
  /** @type {Map<string, number>} Of a bar and beat, from 0; until the window is closed. */
  const divided = new Map(JSON.parse(sessionStorage.getItem(own) ?? "[]"));
  /** @type {string[]} Strands that stay while hands are on them, though they are silent. */
  let also = [];
  let bar = 0;
  const touch = matchMedia("(pointer: coarse)");
  touch.addEventListener("change", () => page.read());

  const keep = () => {
    also = [...new Set([...page.voices(), ...also])];
  };
  const go = (what) => {
    keep();
    return page.move(what);
  };
  const presses = () => [...strands.querySelectorAll(".press")];
  function divideAt(one, parts) {
    divided.set(`${one.dataset.bar}.${one.dataset.beat}`, parts);
    sessionStorage.setItem(own, JSON.stringify([...divided]));
    return page.read();
  }

  function askMeter(one = presses().findLast((each) => each.matches(".set-meter") && Number(each.dataset.bar) === (at()?.bar ?? 0))) {
    if (!one) return;
    bar = Number(one.dataset.bar);
    wanted.value = one.dataset.meter;
    const [room, box] = [set.parentElement.getBoundingClientRect(), one.getBoundingClientRect()];
    set.hidden = false;
    set.style.left = `${Math.max(0, Math.min(room.width - set.offsetWidth, box.left - room.left))}px`;
    set.style.top = `${box.bottom - room.top + 2}px`;
    wanted.focus();
    wanted.select();
  }
  async function setMeter(meter) {
    if (await go({ do: "meter", bar: bar + 1, meter })) leave();
  }
  function leave() {
    set.hidden = true;
    strands.focus({ preventScroll: true });
  }
  for (const one of set.querySelectorAll("[data-meter]")) one.addEventListener("click", () => setMeter(one.dataset.meter));
  document.getElementById("meter-take").addEventListener("click", () => setMeter(wanted.value.trim()));
  set.addEventListener("keydown", (event) => {
    if (event.key === "Escape") leave();
    else if (event.key === "Enter" && event.target === wanted) {
      event.preventDefault();
      setMeter(wanted.value.trim());
    }
  });

  const bars = () => JSON.parse(strands.querySelector("svg.strands")?.dataset.bars ?? "[]").length;
  strands.addEventListener("click", (event) => {
    const one = event.target.closest(".press");
    if (!one) return;
    if (one.matches(".divide")) divideAt(one, next[Number(one.dataset.parts)]);
    else if (one.matches(".set-meter")) askMeter(one);
    else if (one.matches(".drop-bar")) go({ do: "drop-bar" });
    else go(one.matches(".add-bar") ? { do: "add-bar" } : () => ({ do: "repeat-bar", bar: bars() }));
  });

  add.addEventListener("change", () => {
    if (add.value) also = [...new Set([...page.voices(), ...also, add.value])];
    add.value = "";
    strands.focus({ preventScroll: true });
    page.read();
  });
  // Whoever types has the strands of the text again.
  page.text.addEventListener("keydown", (event) => {
    if (event.key.length === 1 || event.key === "Backspace" || event.key === "Delete") also = [];
  });

  return {
    askMeter,
    /** The beat that is chosen. @param {number} parts */
    divide(parts) {
      const tick = at()?.tick ?? 0;
      const cell = strands.querySelector(`.cell[data-tick="${tick}"]`)?.getBoundingClientRect();
      const inBar = presses().filter((one) => one.matches(".divide") && Number(one.dataset.bar) === (at()?.bar ?? 0));
      const own = inBar.findLast((one) => one.getBoundingClientRect().left <= cell.left + cell.width / 2) ?? inBar[0];
      return own && divideAt(own, parts);
    },
    /** Strands do not go while hands are on them. */
    keep,
    view: () => ({
      also: also.join(","),
      divide: [...divided].map(([beat, parts]) => `${beat}:${parts}`).join(","),
      touch: touch.matches,
    }),
  };
}
