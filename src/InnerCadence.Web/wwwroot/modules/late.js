// Beads of a measured passage are dragged early and late: where one is let go stands in the form, and is kept.

const played = /** @type {HTMLElement | null} */ (document.querySelector("#played[data-times]"));
const form = /** @type {HTMLFormElement | null} */ (document.querySelector("#stroke")?.closest("form") ?? null);
const told = document.querySelector("#drags");
const strands = played?.querySelector("svg.strands");

if (played && form && told && strands instanceof SVGSVGElement) {
  const times = Number(played.dataset.times);
  const lasts = JSON.parse(played.dataset.barsMs ?? "[]");
  const starts = JSON.parse(strands.dataset.bars ?? "[]");
  const rows = JSON.parse(strands.dataset.rows ?? "[]");
  const end = rows.at(-1)?.[1] ?? 0;
  told.toggleAttribute("hidden", false);

  /** Milliseconds of one unit of the picture, at a tick. */
  const perUnit = (tick) => {
    const bar = starts.findLastIndex((start) => start <= tick);
    const row = rows.find(([from, to]) => tick >= from && tick < to) ?? rows[0];
    return (lasts[bar] / ((starts[bar + 1] ?? end) - starts[bar])) * ((row[1] - row[0]) / (row[3] - row[2])) / times;
  };
  const stroke = /** @type {HTMLSelectElement} */ (form.elements.namedItem("stroke"));
  const late = /** @type {HTMLInputElement} */ (form.elements.namedItem("late"));
  const now = JSON.parse(played.dataset.late ?? "[]");

  for (const bead of times > 0 ? strands.querySelectorAll("[data-tick][data-voice]") : []) {
    if (!(bead instanceof SVGElement)) continue;
    const [tick, voice] = [Number(bead.dataset.tick), bead.dataset.voice];
    if (![...stroke.options].some((option) => option.value === `${tick} ${voice}`)) continue;
    bead.classList.add("drags");
    bead.addEventListener("pointerdown", (event) => {
      if (event.button !== 0) return;
      event.preventDefault();
      bead.setPointerCapture(event.pointerId);
      const unit = (strands.viewBox.baseVal.width / strands.getBoundingClientRect().width) || 1;
      const was = now.find(([at, code]) => at === tick && code === voice)?.[2] ?? 0;
      const at = (moved) => Math.max(-500, Math.min(500, was + (moved.clientX - event.clientX) * unit * perUnit(tick)));
      const isDrag = (moved) => Math.abs(moved.clientX - event.clientX) >= 2;
      const move = (moved) => {
        if (!isDrag(moved)) return;
        bead.setAttribute("transform", `translate(${(at(moved) - was) / perUnit(tick)} 0)`);
        stroke.value = `${tick} ${voice}`;
        late.value = at(moved).toFixed(1);
        const output = told.querySelector("output");
        if (output) output.textContent = `${stroke.selectedOptions[0].textContent}: ${late.value} ms`;
      };
      const done = (ended) => {
        bead.removeEventListener("pointermove", move);
        bead.removeEventListener("pointerup", done);
        bead.removeEventListener("pointercancel", done);
        if (ended.type === "pointerup" && isDrag(ended)) form.requestSubmit();
        else bead.removeAttribute("transform");
      };
      bead.addEventListener("pointermove", move);
      bead.addEventListener("pointerup", done);
      bead.addEventListener("pointercancel", done);
    });
  }
}
