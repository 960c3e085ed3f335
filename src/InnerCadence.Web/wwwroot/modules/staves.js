// Sets every text that a page wants on five lines.
import { ready, drawStaff } from "./staff.js";
import { post } from "./page.js";

const places = [...document.querySelectorAll(".sheet-staff")];
if (places.length > 0 && (await ready())) {
  for (const place of places) {
    const answer = await post("/api/count-lines/parse?picture=staff", { text: place.dataset.text });
    if (answer?.ok) drawStaff(place, (await answer.json()).picture, 640);
  }
}
document.body.dataset.set = "yes";
