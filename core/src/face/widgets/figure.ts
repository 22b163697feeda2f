import { figuresFit } from '../characterGrid.ts';
import { figureText } from '../figureText.ts';
import { rowOfCharacters } from '../rowOfCharacters.ts';
import type { FaceWidgetKind } from './kind.ts';

/** A reading in figures as large as they fit. */
export const figure: FaceWidgetKind = {
  kind: 'figure',
  title: 'Large digits',
  summary: 'The reading as large as possible, with unit and uncertainty',
  wants: 'reading',
  starts: [1, 0.45],
  draw(canvas, box, { reading }, misses) {
    if (reading) figureText(canvas, box, reading, misses);
  },
  write(grid, { reading, title }, misses) {
    if (!reading) return;
    if (reading.text === null || grid.rows < 3 || !figuresFit(reading, grid.columns)) {
      const state = `${reading.state} ${reading.detail}`.trim();
      if (reading.text === null) rowOfCharacters(grid, 0, title, state, '', misses);
      else rowOfCharacters(grid, 0, title, reading.text, reading.unit, misses);
      return;
    }
    const at = grid.figures(reading.text);
    grid.write(at, 2, reading.unit);
    if (reading.worth) grid.write(at, 1, reading.worth);
  },
};
