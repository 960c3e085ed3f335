// The sounds of the kit, each fetched and decoded once.
import { clockwork } from "./rounds.js";

/** @type {Map<string, Promise<AudioBuffer>>} */
const buffers = new Map();
/** @param {string} name
 * @returns {Promise<AudioBuffer>} */
export function buffer(name) {
  if (!buffers.has(name)) {
    const made = fetch(`/api/sound/voices/${name}.wav`)
      .then((answer) => answer.arrayBuffer())
      .then((bytes) => clockwork().decodeAudioData(bytes));
    made.catch(() => buffers.delete(name));
    buffers.set(name, made);
  }
  return /** @type {Promise<AudioBuffer>} */ (buffers.get(name));
}
