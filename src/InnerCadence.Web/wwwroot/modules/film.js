// A film beside the bench, at the clock of what plays: it follows the sound, never the other way.
import { clock } from "./clock.js";

const drift = 0.08; // seconds by which it may be off before it is set right
const picture = 1 / 25; // seconds of a step

/** @param {HTMLElement} root Of the player. */
export function film(root) {
  const part = document.getElementById("film-part");
  if (!part) return;
  const [back, on, mirror, said] = ["film-back", "film-on", "film-mirror", "film-at"].map((id) => document.getElementById(id));
  /** @type {HTMLVideoElement} */
  const video = part.querySelector("video");
  const show = () => {
    said.textContent = clock(video.currentTime, 2);
  };
  mirror.checked = localStorage.getItem("inner-cadence mirrored") === "yes";
  const turn = () => {
    video.classList.toggle("mirrored", mirror.checked);
    localStorage.setItem("inner-cadence mirrored", mirror.checked ? "yes" : "no");
  };
  mirror.addEventListener("change", turn);
  turn();

  root.addEventListener("moves", (event) => {
    const told = /** @type {CustomEvent} */ (event).detail;
    if (!told || told.at === null || !part.open) {
      video.pause();
      return;
    }
    video.playbackRate = told.rate;
    if (Math.abs(video.currentTime - told.at) > drift) video.currentTime = told.at;
    if (video.paused)
      video.play().catch(() => {
        said.textContent = "The browser does not play this film.";
      });
    show();
  });
  // Opened while nothing plays it stands at the passage's first bar line.
  part.addEventListener("toggle", () => {
    const lines = JSON.parse(root.dataset.lines ?? "[]");
    if (part.open && video.paused && lines.length) video.currentTime = lines[0];
  });
  const step = (way) => {
    video.pause();
    video.currentTime = Math.max(0, video.currentTime + way * picture);
  };
  back.addEventListener("click", () => step(-1));
  on.addEventListener("click", () => step(1));
  part.addEventListener("keydown", (event) => {
    const way = { ",": -1, ".": 1 }[event.key];
    if (!way || event.ctrlKey || event.altKey) return;
    event.preventDefault();
    event.stopPropagation();
    step(way);
  });
  video.addEventListener("seeked", show);
}
