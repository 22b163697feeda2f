import { rowOfCharacters } from '../rowOfCharacters.ts';
import { rowText } from '../rowText.ts';
import type { FaceWidgetKind } from './kind.ts';

/** A name and its value in one row. */
export const row: FaceWidgetKind = {
  kind: 'row',
  title: 'Row',
  summary: 'Name on the left, value on the right',
  wants: 'reading',
  starts: [1, 0.14],
  draw(canvas, box, { reading, title }, misses) {
    if (!reading) return;
    const value = reading.text === null ? reading.state : `${reading.text} ${reading.unit}`.trim();
    rowText(canvas, box, title, value, misses);
  },
  write(grid, { reading, title }, misses) {
    if (!reading) return;
    if (reading.text === null) rowOfCharacters(grid, 0, title, reading.state, '', misses);
    else rowOfCharacters(grid, 0, title, reading.text, reading.unit, misses);
  },
};
