// Draws what the server describes: [name, {attribute: value}, text or [children]].
const svg = "http://www.w3.org/2000/svg";

/** Puts a picture in the place of the one before; rows that are the same stay as they are, so that long passages keep up with the fingers. */
export function redraw(place, picture) {
  const old = place.querySelector("svg");
  const [, attributes, [[, , rows]]] = picture;
  const kept = [...(old?.querySelectorAll(":scope > g > .bars-row") ?? [])];
  const sources = rows.map((row) => JSON.stringify(row));
  if (!old || old.getAttribute("class") !== attributes.class || !kept.length) {
    place.replaceChildren(draw(picture));
    place.querySelectorAll("svg > g > .bars-row").forEach((row, i) => {
      row.source = sources[i];
    });
    return;
  }
  for (const [key, value] of Object.entries(attributes)) old.setAttribute(key, value);
  const group = kept[0].parentNode;
  rows.forEach((row, i) => {
    if (kept[i]?.source === sources[i]) return;
    const made = draw(row);
    made.source = sources[i];
    if (kept[i]) kept[i].replaceWith(made);
    else group.append(made);
  });
  for (const row of kept.slice(rows.length)) row.remove();
}

export function draw([name, attributes, content]) {
  const element = document.createElementNS(svg, name);
  for (const [key, value] of Object.entries(attributes)) element.setAttribute(key, value);
  if (typeof content === "string") element.textContent = content;
  else element.append(...content.map(draw));
  return element;
}
