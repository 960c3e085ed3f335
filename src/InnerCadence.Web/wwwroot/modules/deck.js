// A whole record: played on from anywhere by its element, looped and slowed on the audio clock. Which of the two sounds is nobody else's
// business.
import { longest, stretch } from "./record.js";
import { clockwork, rounds } from "./rounds.js";
import { alone } from "./transport.js";

/**
 * @typedef {{from: number, to: number}} Span In seconds.
 * @param {HTMLAudioElement} audio
 * @param {HTMLElement} root Of the transport.
 * @param {{percent: () => number, part: () => string, switch: (loop: boolean) => void, shows: (sounds: boolean) => void}} hand The transport.
 * @param {{record: string | undefined, span: () => Span | null, tell: (words: string) => void, changed?: () => void}} room
 * `record` is where loops are cut, nothing where only the browser reads the file; `span` the loop that is set.
 */
export function deck(audio, root, { percent, part, switch: loop, shows }, { record, span, tell, changed = () => {} }) {
  /** @type {GainNode | null} */ let out = null;
  /** @type {ReturnType<typeof rounds> | null} */ let turns = null;
  let asked = 0;
  audio.preservesPitch = true;
  audio.playbackRate = percent() / 100;

  const loops = () => turns?.plays() ?? false;
  const plays = () => loops() || !audio.paused;
  const here = () => (loops() ? (turns?.place() ?? 0) : audio.currentTime);
  const rate = () => (loops() ? (turns?.plan()?.rate ?? 1) : audio.playbackRate);
  /** @param {Span | null} wanted */
  const cuts = (wanted) => record !== undefined && record !== "" && wanted !== null && wanted.to - wanted.from <= longest(percent());

  const told = () => {
    shows(plays());
    changed();
  };
  for (const name of ["play", "pause"]) audio.addEventListener(name, told);

  /** @param {Span} wanted */
  async function plan(wanted) {
    return { ...wanted, rate: percent() / 100, events: [], record: await stretch(record ?? "", wanted.from, wanted.to, percent(), part()) };
  }

  async function start() {
    alone(root);
    const wanted = span();
    if (!wanted || !cuts(wanted)) {
      if (wanted && (audio.currentTime < wanted.from || audio.currentTime >= wanted.to)) audio.currentTime = wanted.from;
      return audio.play();
    }
    const turn = ++asked;
    const context = clockwork();
    await context.resume();
    try {
      const made = await plan(wanted);
      if (turn !== asked) return;
      if (!out) {
        out = new GainNode(context);
        out.connect(context.destination);
      }
      turns ??= rounds({ looped: () => span() !== null, out: () => /** @type {GainNode} */ (out), round: () => {}, ended: told });
      const at = here();
      audio.pause();
      turns.begin(made, [], at > made.from && at < made.to ? at : made.from);
      tell("");
    } catch {
      tell("The loop cannot be cut; the record plays on instead.");
      audio.play();
    }
    told();
  }

  function stop() {
    asked++;
    const [at, looped] = [here(), loops()];
    turns?.stop();
    audio.pause();
    if (looped) audio.currentTime = at;
    told();
  }

  /** What changed is heard at once: another loop, speed or part; on from here where there is no loop any more. */
  async function renew() {
    audio.playbackRate = percent() / 100;
    if (!plays()) return;
    const wanted = span();
    if (!loops() || !wanted || !cuts(wanted)) {
      if (!loops() && !cuts(wanted)) return;
      const at = here();
      turns?.stop();
      audio.pause();
      audio.currentTime = at;
      return start();
    }
    const turn = ++asked;
    const made = await plan(wanted).catch(() => null);
    if (made && turn === asked && loops()) turns?.change(made);
  }

  /** @param {number} time */
  function go(time) {
    const at = Math.max(0, Math.min(time, audio.duration || time));
    const wanted = span();
    if (loops()) {
      turns?.stop();
      audio.currentTime = at;
      if (wanted && (at < wanted.from || at >= wanted.to)) loop(false);
      start();
    } else audio.currentTime = at;
  }

  // Where the server cuts no loop the element goes back by itself.
  setInterval(() => {
    const wanted = span();
    if (!loops() && !audio.paused && wanted && !cuts(wanted) && audio.currentTime >= wanted.to) audio.currentTime = wanted.from;
  }, 15);

  return { loops, plays, here, rate, start, stop, renew, go };
}
