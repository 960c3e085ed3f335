// Moves along the strip of a recording: the server draws each stretch, this asks for it.
import { draw } from "./draw.js";
import { get } from "./page.js";

const strip = document.getElementById("strip");
if (strip) {
  /** @type {{from: number, to: number | null}} */
  const whole = { from: 0, to: null };
  let { from, to } = { from: Number(strip.dataset.from), to: Number(strip.dataset.to) };
  let asked = 0;
  let timer;

  const show = (a, b) => {
    const length = Math.max(0.5, b - a);
    const end = whole.to ?? Infinity;
    from = Math.max(0, Math.min(a, end - length));
    to = Math.min(end, from + length);
    clearTimeout(timer);
    timer = setTimeout(load, 25);
  };

  async function load() {
    const turn = ++asked;
    const stretch = from === 0 && to === whole.to ? "" : `from=${from.toFixed(3)}&to=${to.toFixed(3)}`;
    const answer = await get(`${strip.dataset.picture ?? strip.dataset.address}?handler=Strip&${stretch}`);
    if (!answer?.ok || turn !== asked) return;
    strip.replaceChildren(draw(await answer.json()));
    // A loop that stands in the address stays there; a page of which the strip is only a part keeps its own.
    if (strip.dataset.address && !location.search.includes(":") && !location.search.includes("%3A"))
      history.replaceState(null, "", stretch ? `${strip.dataset.address}?${stretch}` : strip.dataset.address);
  }

  strip.addEventListener("shows", (event) => {
    const asked = /** @type {CustomEvent} */ (event).detail;
    show(asked.from, asked.to);
  });

  const zoom = (factor, at = 0.5) => {
    const middle = from + at * (to - from);
    show(middle - (at * (to - from)) / factor, middle + ((1 - at) * (to - from)) / factor);
  };
  const move = (share) => show(from + share * (to - from), to + share * (to - from));

  if (!location.search.includes("from=")) whole.to = to;
  strip.addEventListener("keydown", (event) => {
    const does = {
      ArrowRight: () => move(0.25),
      ArrowLeft: () => move(-0.25),
      "+": () => zoom(1.5),
      "=": () => zoom(1.5),
      "-": () => zoom(1 / 1.5),
      0: () => {
        if (strip.dataset.address) location.href = strip.dataset.address;
        else show(0, Infinity);
      },
    }[event.key];
    if (!does || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    event.stopPropagation();
    does();
  });
  strip.addEventListener(
    "wheel",
    (event) => {
      if (!event.ctrlKey && !event.shiftKey && Math.abs(event.deltaX) <= Math.abs(event.deltaY)) return;
      event.preventDefault();
      const at = (event.clientX - strip.getBoundingClientRect().left) / strip.clientWidth;
      if (event.ctrlKey) zoom(event.deltaY < 0 ? 1.25 : 0.8, at);
      else move((event.deltaX || event.deltaY) / strip.clientWidth);
    },
    { passive: false },
  );
  /** @type {{x: number, from: number, to: number} | null} */
  let grabbed = null;
  strip.addEventListener("pointerdown", (event) => {
    if (event.button !== 0 || event.target.closest("a, .wave-room")) return;
    grabbed = { x: event.clientX, from, to };
    strip.setPointerCapture(event.pointerId);
  });
  strip.addEventListener("pointermove", (event) => {
    if (!grabbed) return;
    const by = ((grabbed.x - event.clientX) / strip.clientWidth) * (grabbed.to - grabbed.from);
    if (Math.abs(event.clientX - grabbed.x) > 3) show(grabbed.from + by, grabbed.to + by);
  });
  strip.addEventListener("pointerup", () => {
    grabbed = null;
  });
}
