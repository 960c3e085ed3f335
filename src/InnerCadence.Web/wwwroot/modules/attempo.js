/** What was played, at another tempo. @param {any} music As the server tells it. @param {number} tempo Quarters a minute. */
export function atTempo(music, tempo) {
  const by = music.tempo / tempo;
  const late = ([at, ...rest]) => [at * by, ...rest];
  return {
    ...music,
    tempo,
    length: music.length * by,
    firstBar: music.firstBar * by,
    notes: music.notes.map((note) => ({ ...note, at: note.at * by, until: note.until === null ? null : note.until * by })),
    beats: music.beats.map(late),
    line: music.line.map(late),
    bars: music.bars.map((at) => at * by),
  };
}
