// The line that moves along strands, staff and ring with what sounds.

/**
 * @param {SVGElement} svg With where its rows lie. @param {number} tick @param {boolean} outside Of what is drawn.
 */
export function follow(svg, tick, outside) {
  let line = svg.querySelector(":scope > .now");
  if (!line) {
    line = document.createElementNS("http://www.w3.org/2000/svg", "line");
    line.setAttribute("class", "now");
    svg.append(line);
  }
  line.setAttribute("visibility", outside ? "hidden" : "visible");
  const put = (x1, y1, x2, y2) => {
    for (const [name, value] of Object.entries({ x1, y1, x2, y2 })) line.setAttribute(name, value);
  };
  if (svg.dataset.length) {
    const angle = (2 * Math.PI * tick) / Number(svg.dataset.length);
    const [middle, outer] = [Number(svg.dataset.middle), Number(svg.dataset.outer)];
    return put(middle, middle, middle + outer * Math.sin(angle), middle - outer * Math.cos(angle));
  }
  const rows = JSON.parse(svg.dataset.rows ?? "[]");
  const row = rows.find(([start, end]) => tick >= start && tick < end) ?? rows.at(-1);
  if (!row) return;
  const [start, end, x0, x1, y0, y1] = row;
  const x = x0 + (x1 - x0) * Math.min(1, (tick - start) / (end - start));
  put(x, y0 - Number(svg.dataset.wave ?? 0), x, y1);
}
