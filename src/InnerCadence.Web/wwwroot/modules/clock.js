/**
 * A clock time as it is said everywhere, m:ss with a point and parts of a second.
 * @param {number} seconds
 * @param {number} [decimals]
 */
export const clock = (seconds, decimals = 3) =>
  `${Math.floor(seconds / 60)}:${(seconds % 60).toFixed(decimals).padStart(decimals ? decimals + 3 : 2, "0")}`;

/** What is typed as a clock time, in seconds; no number where nothing or no time is typed. @param {string} text */
export const seconds = (text) =>
  text.trim()
    ? text
        .trim()
        .split(":")
        .reduce((sum, part) => sum * 60 + Number(part), 0)
    : NaN;
