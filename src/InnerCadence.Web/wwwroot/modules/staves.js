// Sets every text that a page wants on five lines.
import { ready, drawStaff } from "./staff.js";
import { post } from "./page.js";

async function set() {
  const places = /** @type {HTMLElement[]} */ ([...document.querySelectorAll(".sheet-staff:empty")]);
  if (places.length > 0 && (await ready())) {
    for (const place of places) {
      const answer = await post("/api/count-lines/parse?picture=staff", { text: place.dataset.text });
      if (answer?.ok) drawStaff(place, (await answer.json()).picture, 640, place.dataset.as ?? "");
    }
  }
  document.body.dataset.set = "yes";
}
// What an article reads like changes while it is written.
document.addEventListener("seen", set);
await set();
