// Stretches of a record as the server gives them: cut to the sample, at a speed with its pitch kept, each fetched once.
import { clockwork } from "./rounds.js";

const most = 600; // seconds of sound that are kept
/** @type {Map<string, Promise<AudioBuffer>>} */
const kept = new Map();
/** @type {Map<string, number>} */
const lengths = new Map();

/** The longest loop that the server cuts, in seconds of the record. @param {number} speed In percent. */
export const longest = (speed) => 2.4 * speed;

/**
 * @param {string} address Of the record.
 * @param {number} from In seconds. @param {number} to
 * @param {number} speed In percent. @param {string} part What of it is heard.
 */
export function stretch(address, from, to, speed, part) {
  const asked = `${address}/loop.wav?${new URLSearchParams({ from: from.toFixed(4), to: to.toFixed(4), speed: String(speed), part })}`;
  let made = kept.get(asked);
  if (!made) {
    made = fetch(asked).then(async (answer) => {
      if (!answer.ok) throw new Error(String(answer.status));
      return clockwork().decodeAudioData(await answer.arrayBuffer());
    });
    made.catch(() => kept.delete(asked));
    kept.set(asked, made);
    lengths.set(asked, ((to - from) * 100) / speed);
    for (const oldest of kept.keys()) {
      if (kept.size === 1 || [...kept.keys()].reduce((sum, key) => sum + (lengths.get(key) ?? 0), 0) <= most) break;
      kept.delete(oldest);
      lengths.delete(oldest);
    }
  }
  return made;
}
