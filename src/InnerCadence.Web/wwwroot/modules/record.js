// Stretches of a record as the server gives them: cut to the sample, at a speed with its pitch kept, each fetched once.
import { clockwork } from "./rounds.js";

const most = 16;
/** @type {Map<string, Promise<AudioBuffer>>} */
const kept = new Map();

/** The longest loop that the server cuts, in seconds. */
export const longest = 60;

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
    for (const oldest of kept.keys()) {
      if (kept.size <= most) break;
      kept.delete(oldest);
    }
  }
  return made;
}
