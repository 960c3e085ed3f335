// The one audio clock. Rounds of what is played follow one another on it to the sample, whatever the page is doing and whether it is seen
// or not.
const near = 0.15,
  behind = 2.5; // seconds that are planned ahead; in a tab behind another the timers come once a second

/** @type {AudioContext | undefined} */
let shared;
export const clockwork = () => (shared ??= new AudioContext());

/**
 * What is played in a round, in seconds of the music: from `from` to `to`, at `rate`. `record` is the round's sound as it is heard,
 * already at its rate.
 * @typedef {{from: number, to: number, rate: number, events: {at: number, play: (when: number) => void}[],
 *   record: AudioBuffer | null}} Plan
 */

/**
 * @param {{looped: () => boolean, out: () => AudioNode, round: (lap: number, when: number) => void, ended: () => void}} hooks
 */
export function rounds({ looped, out, round, ended }) {
  const context = clockwork();
  /** @type {Plan | null} */ let plan = null;
  /** @type {Plan | null} */ let next = null;
  /** @type {AudioBufferSourceNode | null} */ let source = null;
  let [lap, lapAt, at] = [0, 0, 0];
  /** @type {number | undefined} */ let timer;
  /** @type {{before: number, play: (when: number) => void}[]} */ let leads = [];

  const length = () => (plan ? (plan.to - plan.from) / plan.rate : 0);

  function sound(when, offset) {
    source?.stop(when);
    source = null;
    if (!plan?.record) return;
    source = new AudioBufferSourceNode(context, { buffer: plan.record, loop: looped(), loopEnd: length() });
    source.connect(out());
    source.start(when, Math.max(0, offset));
  }

  /**
   * @param {Plan} given
   * @param {{before: number, play: (when: number) => void}[]} [before] What is heard before the first round, so many seconds of the music.
   * @param {number} [from] Where in the first round it begins.
   */
  function begin(given, before = [], from = given.from) {
    [plan, next, lap] = [given, null, 0];
    leads = before.toSorted((a, b) => b.before - a.before);
    const now = context.currentTime + 0.1 + Math.max(0, ...leads.map((lead) => lead.before)) / plan.rate;
    lapAt = now - (from - plan.from) / plan.rate;
    at = from > plan.from ? plan.events.findIndex((event) => event.at >= from) : 0;
    if (at < 0) at = plan.events.length;
    round(0, now);
    sound(now, (from - plan.from) / plan.rate);
    timer = setInterval(tick, 30);
    tick();
    return now;
  }

  function tick() {
    if (!plan) return;
    const until = context.currentTime + (document.hidden ? behind : near);
    while (leads.length && lapAt - leads[0].before / plan.rate <= until) {
      const lead = leads.shift();
      lead?.play(lapAt - lead.before / plan.rate);
    }
    for (;;) {
      for (; at < plan.events.length; at++) {
        const when = lapAt + (plan.events[at].at - plan.from) / plan.rate;
        if (when > until) return;
        // What a sleeping machine has missed is not made up for.
        if (when > context.currentTime - 0.06) plan.events[at].play(when);
      }
      const end = lapAt + length();
      if (!looped()) {
        if (source) source.loop = false;
        if (context.currentTime > end + 0.3) stop(true);
        return;
      }
      if (source && !source.loop) source.loop = true;
      if (end > until) return;
      [lap, lapAt, at] = [lap + 1, end, 0];
      round(lap, end);
      if (next) {
        [plan, next] = [next, null];
        sound(end, 0);
      }
    }
  }

  /** From the next round on. @param {Plan} given */
  function follow(given) {
    next = given;
  }

  /** At once, at the same place of the music. @param {Plan} given */
  function change(given) {
    if (!plan) return;
    const here = Math.min(Math.max(place(), given.from), given.to - 0.001);
    [plan, next] = [given, null];
    const now = context.currentTime + 0.01;
    lapAt = now - (here - plan.from) / plan.rate;
    at = plan.events.findIndex((event) => event.at >= here);
    if (at < 0) at = plan.events.length;
    sound(now, (here - plan.from) / plan.rate);
  }

  function stop(over = false) {
    clearInterval(timer);
    source?.stop();
    source?.disconnect();
    [plan, next, source, leads] = [null, null, null, []];
    if (over) ended();
  }

  /** Where in the music it is, in seconds of it. */
  function place() {
    if (!plan) return 0;
    const passed = (context.currentTime - lapAt) * plan.rate;
    const span = plan.to - plan.from;
    // What is planned ahead may be of the next round already.
    return plan.from + (passed < 0 ? (lap > 0 ? passed + span : 0) : Math.min(passed, span));
  }

  return { begin, follow, change, stop, place, plays: () => plan !== null, plan: () => plan, lap: () => lap };
}
