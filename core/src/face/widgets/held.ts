import { rowOfCharacters } from '../rowOfCharacters.ts';
import { rowText } from '../rowText.ts';
import type { FaceWidgetKind, WidgetSeen } from './kind.ts';

/** While nothing is kept yet. */
export const NONE = 'none yet';

/** The highest since somebody pressed reset. */
export const peak: FaceWidgetKind = {
  kind: 'peak',
  title: 'Peak hold',
  summary: 'Highest reading since reset',
  wants: 'reading',
  keeps: ['highest'],
  starts: [1, 0.14],
  draw(canvas, box, seen, misses) {
    if (seen.reading) rowText(canvas, box, nameOf(seen, 'max'), withUnit(seen, 1), misses);
  },
  write(grid, seen, misses) {
    if (seen.reading) rowOfCharacters(grid, 0, nameOf(seen, 'max'), withUnit(seen, 1), '', misses);
  },
};

/** Both ends of what an axis has seen since somebody pressed reset. */
export const extremes: FaceWidgetKind = {
  kind: 'extremes',
  title: 'Lowest to highest',
  summary: 'Lowest and highest reading since reset, for each axis',
  wants: 'reading',
  keeps: ['lowest', 'highest'],
  starts: [1, 0.14],
  draw(canvas, box, seen, misses) {
    if (seen.reading) rowText(canvas, box, seen.title, bothEnds(seen), misses);
  },
  write(grid, seen, misses) {
    if (seen.reading) rowOfCharacters(grid, 0, seen.title, bothEnds(seen), '', misses);
  },
};

const nameOf = ({ title }: WidgetSeen, what: string) => `${title} ${what}`;

const withUnit = ({ extremes: ends, reading }: WidgetSeen, end: 0 | 1) =>
  ends ? `${ends[end]} ${reading!.unit}`.trim() : NONE;

const bothEnds = ({ extremes: ends, reading }: WidgetSeen) =>
  ends ? `${ends[0]}…${ends[1]} ${reading!.unit}`.trim() : NONE;
