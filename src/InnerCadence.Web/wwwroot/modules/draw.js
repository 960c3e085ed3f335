// Draws what the server describes: [name, {attribute: value}, text or [children]].
const svg = "http://www.w3.org/2000/svg";

export function draw([name, attributes, content]) {
  const element = document.createElementNS(svg, name);
  for (const [key, value] of Object.entries(attributes)) element.setAttribute(key, value);
  if (typeof content === "string") element.textContent = content;
  else element.append(...content.map(draw));
  return element;
}
