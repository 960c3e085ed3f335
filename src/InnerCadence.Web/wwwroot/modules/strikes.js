// Strokes and clicks that sound at a time of the audio clock, and fall silent when what was planned holds no more.
import { clockwork } from "./rounds.js";
import { buffer } from "./samples.js";

/** @param {() => void} sounded Told of each sound that is put on the clock. */
export function strikes(sounded) {
  /** @type {Map<string, AudioBuffer>} */
  let sounds = new Map();
  /** @type {Map<AudioBufferSourceNode, number>} What sounds or will, by its time. */
  const live = new Map();

  function start(name, when, gain, pan, until, out) {
    const context = clockwork();
    const source = new AudioBufferSourceNode(context, { buffer: sounds.get(name) });
    const level = new GainNode(context, { gain });
    source.connect(level).connect(new StereoPannerNode(context, { pan })).connect(out);
    source.start(Math.max(when, context.currentTime));
    if (until !== null) level.gain.setTargetAtTime(0, until, 0.012);
    live.set(source, when);
    source.addEventListener("ended", () => live.delete(source));
    sounded();
  }

  return {
    /** @param {Iterable<string>} names */
    load: async (names) => {
      sounds = new Map(
        await Promise.all([...names].map(async (name) => /** @type {[string, AudioBuffer]} */ ([name, await buffer(name)]))),
      );
    },
    /** @param {{sound: string, gain: number, pan: number, at: number, until: number | null}} note @param {number} rate @param {AudioNode} out */
    strike: (note, level, when, rate, out) => {
      if (level > 0)
        start(note.sound, when, note.gain * level, note.pan, note.until === null ? null : when + (note.until - note.at) / rate, out);
    },
    /** A click, past all levels. */
    tone: (name, when) => start(name, when, 0.5, 0, null, clockwork().destination),
    /** What is planned and has not sounded yet belongs to the plan of before. */
    hush: () => {
      for (const [source, when] of live)
        if (when > clockwork().currentTime) {
          source.stop();
          live.delete(source);
        }
    },
    silence: () => {
      for (const source of live.keys()) source.stop();
      live.clear();
    },
  };
}
