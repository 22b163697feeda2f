import { INK, widthOf } from '../canvas.ts';
import { figuresFit } from '../characterGrid.ts';
import { figureText } from '../figureText.ts';
import { SMALL } from '../fonts/small.ts';
import { rowOfCharacters } from '../rowOfCharacters.ts';
import type { FaceReading } from '../faceContent.ts';
import type { FaceWidgetKind, Race } from './kind.ts';

export const RACE_WORDS: Readonly<Record<Race['state'], string>> = {
  set: 'not ready',
  ready: 'ready',
  running: 'running',
  result: 'finished',
};

/** Room of one lamp, pixels. */
const LAMP = 8;

/** A race: not ready, ready, running, finished. */
export const stopwatch: FaceWidgetKind = {
  kind: 'stopwatch',
  title: 'Stopwatch',
  summary: 'Shows not ready, ready, the running time, then the result',
  wants: 'race',
  starts: [1, 0.5],
  draw(canvas, box, { race, reading }, misses) {
    if (!race || !reading) return;
    const word = RACE_WORDS[race.state];
    const hasFoot = box.height >= 2.5 * SMALL.height && box.width >= LAMP * Object.keys(RACE_WORDS).length;
    const foot = hasFoot ? SMALL.height + 2 : 0;
    const shown: FaceReading = { ...reading, ...timeOf(race, reading), state: word, detail: '' };
    figureText(canvas, { ...box, height: box.height - foot }, shown, misses);
    if (foot === 0 || race.text === null) return;
    const y = box.y + box.height - SMALL.height;
    // Four lamps, of which one is lit: what comes next can be seen from afar.
    const states = Object.keys(RACE_WORDS) as Race['state'][];
    states.forEach((state, k) => {
      const x = box.x + k * LAMP;
      if (state === race.state) canvas.fill(x, y + 2, 6, 6, INK.accent);
      else canvas.frame(x, y + 2, 6, 6, INK.dim);
    });
    const left = box.x + states.length * LAMP + 3;
    if (left + widthOf(SMALL, word) <= box.x + box.width) canvas.text(SMALL, left, y, word, INK.dim);
  },
  write(grid, { race, reading, title }, misses) {
    if (!race || !reading) return;
    const shown: FaceReading = { ...reading, ...timeOf(race, reading), state: RACE_WORDS[race.state] };
    if (race.text !== null && grid.rows >= 3 && figuresFit(shown, grid.columns)) {
      const at = grid.figures(race.text);
      grid.write(at, 2, 's');
      if (grid.rows > 3) grid.line(3, RACE_WORDS[race.state]);
      return;
    }
    const word = RACE_WORDS[race.state];
    if (race.text === null) rowOfCharacters(grid, 0, title, word, '', misses);
    else rowOfCharacters(grid, 0, word, race.text, 's', misses);
  },
};

/** What it is worth is known of a result only. */
const timeOf = ({ state, text }: Race, { worth }: FaceReading) => ({
  text,
  unit: 's',
  worth: state === 'result' ? worth : '',
});
