// Where the bars of a record lie, beyond those that are known too.

/**
 * Seconds of a bar line, 0 the first; before and after what is known bars last as long as the first and the last that are.
 * @param {number[]} lines At least two.
 * @param {number} bar
 */
export function lineOf(lines, bar) {
  const last = lines.length - 1;
  if (bar < 0) return lines[0] + bar * (lines[1] - lines[0]);
  return bar > last ? lines[last] + (bar - last) * (lines[last] - lines[last - 1]) : lines[bar];
}
