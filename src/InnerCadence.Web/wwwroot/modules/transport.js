// What every room with sound has in hand: play and stop, loops, speed, what of the record is heard, and the keys for it. What sounds is
// the room's own.
import { remember, remembered } from "./memory.js";

/**
 * @typedef {object} Room
 * @property {() => void} toggle Plays or stops.
 * @property {() => void} stop
 * @property {(what: "speed" | "part" | "loop" | "span") => void} changed Is to be heard at once.
 * @property {(bars: number) => void} [shift] The loop, by so many bars.
 * @property {(source: string) => void} [choose] Record, written, both, in turn.
 * @property {() => void} [loop] The next loop there is; else it is switched on and off.
 * @property {() => void} [click]
 */

/** @type {{root: HTMLElement, act: Record<string, (...given: any[]) => void>, room: Room}[]} */
const made = [];

/**
 * @param {HTMLElement} root Holds the controls.
 * @param {Room} room
 * @param {{keeps?: boolean}} how `keeps` is whether the speed of this room is that of the next.
 */
export function transport(root, room, { keeps = true } = {}) {
  const find = (name) => /** @type {any} */ (root.querySelector(`[data-part="${name}"]`));
  const [button, plays, speed, said, loop, span, part, place] = ["play", "plays", "speed", "said", "loop", "span", "part", "place"].map(
    find,
  );
  const known = remembered();
  if (keeps && !speed.dataset.said && known.speed) speed.value = known.speed;
  if (part && known.part) part.value = known.part;

  const percent = () => Number(speed.value);
  const told = () => {
    said.textContent = `${percent()} %`;
  };
  told();

  /** @param {number} to In percent. */
  function set(to) {
    speed.value = to;
    speed.dispatchEvent(new Event("input"));
  }
  function put(field, value) {
    field.value = value;
    field.dispatchEvent(new Event("change"));
  }

  button.addEventListener("click", room.toggle);
  speed.addEventListener("input", () => {
    told();
    if (keeps) remember({ speed: percent() });
    room.changed("speed");
  });
  part?.addEventListener("change", () => {
    remember({ part: part.value });
    room.changed("part");
  });
  loop?.addEventListener("change", () => room.changed("loop"));
  span?.addEventListener("change", () => room.changed("span"));
  const sources = [.../** @type {NodeListOf<HTMLElement>} */ (root.querySelectorAll("[data-hears]"))];
  for (const one of sources) one.addEventListener("click", () => room.choose?.(one.dataset.hears ?? ""));
  find("earlier")?.addEventListener("click", () => room.shift?.(-1));
  find("later")?.addEventListener("click", () => room.shift?.(1));

  const act = {
    play: () => button.click(),
    choose: (source) => room.choose?.(source),
    hasten: (by) => set(percent() + by),
    shift: (by) => room.shift?.(by),
    loop: () => (room.loop ?? (() => loop?.click()))(),
    drums: () => part && put(part, part.value === "drums" ? "whole" : "drums"),
    click: () => room.click?.(),
  };
  made.push({ root, act, room });
  return {
    percent,
    /** What of the record is heard. */
    part: () => part?.value || "whole",
    looped: () => loop?.checked ?? false,
    /** @param {boolean} on Said without anybody having asked for it. */
    switch: (on) => {
      if (loop) loop.checked = on;
    },
    /** @param {string} source What is heard of record and written. */
    hears: (source) => {
      for (const one of sources) one.setAttribute("aria-pressed", String(one.dataset.hears === source));
    },
    /** @param {string} words Instead of the speed in percent. */
    said: (words) => {
      said.textContent = words;
    },
    /** @param {string} words */
    place: (words) => {
      if (place) place.textContent = words;
    },
    /** @param {boolean} sounds @param {string} [words] On the button. */
    shows: (sounds, words) => {
      plays.textContent = words ?? (sounds ? "Stop" : button.dataset.rests);
      root.dataset.state = sounds ? "playing" : "still";
    },
  };
}

/** One plays at a time. @param {HTMLElement} root The one that begins. */
export function alone(root) {
  for (const other of made) if (other.root !== root) other.room.stop();
}

// Keys that type nothing, so that the caret stays where it is: Alt and a letter, wherever the focus is.
document.addEventListener(
  "keydown",
  (event) => {
    if (!event.altKey || event.ctrlKey || event.metaKey) return;
    const one =
      made.find(({ root }) => root.dataset.state === "playing") ??
      made.find(({ root }) => root.dataset.foot) ??
      made.find(({ root }) => root.dataset.record) ??
      made[0];
    if (!one) return;
    const { act } = one;
    const chooses = one.root.querySelector("[data-hears]") !== null;
    const does = {
      KeyP: act.play,
      KeyR: () => act.choose("record"),
      KeyW: () => act.choose("written"),
      KeyU: () => act.choose("both"),
      KeyI: () => act.choose("turn"),
      Digit1: () => act.choose("record"),
      Digit2: () => act.choose("written"),
      Digit3: () => act.choose("both"),
      Digit4: () => act.choose("turn"),
      KeyJ: () => act.shift(-1),
      KeyK: () => act.shift(1),
      KeyM: act.loop,
      KeyN: act.drums,
      KeyC: act.click,
      Minus: () => act.hasten(event.shiftKey ? -10 : -5),
      Equal: () => act.hasten(event.shiftKey ? 10 : 5),
    }[event.code];
    if (!does || (!chooses && event.code.startsWith("Digit"))) return;
    event.preventDefault();
    event.stopPropagation();
    does();
  },
  true,
);
