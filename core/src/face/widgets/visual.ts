import { bar as drawBar, dial as drawDial, rose as drawRose, trend as drawTrend } from '../visuals.ts';
import type { FaceWidgetKind } from './kind.ts';

/** Pictures of one reading. */
export const dial: FaceWidgetKind = {
  kind: 'dial',
  title: 'Dial',
  summary: 'A needle between the ends of the brief',
  wants: 'reading',
  starts: [1, 0.5],
  draw(canvas, box, { reading }) {
    if (reading) drawDial(canvas, box, reading);
  },
};

export const bar: FaceWidgetKind = {
  kind: 'bar',
  title: 'Bar',
  summary: 'How much of the brief’s range it fills',
  wants: 'reading',
  starts: [1, 0.25],
  draw(canvas, box, { reading }) {
    if (reading) drawBar(canvas, box, reading);
  },
  write(grid, { reading }) {
    if (!reading || reading.share === null) return;
    const halves = Math.round(2 * grid.columns * Math.min(1, Math.max(0, reading.share)));
    for (let column = 0; column < Math.floor(halves / 2); column++) grid.block(column, 0, 'F');
    if (halves % 2 === 1) grid.block(Math.floor(halves / 2), 0, 'L');
  },
};

export const trend: FaceWidgetKind = {
  kind: 'trend',
  title: 'Trend',
  summary: 'The last minute, from its lowest to its highest',
  wants: 'reading',
  starts: [1, 0.4],
  draw(canvas, box, { reading }) {
    if (reading) drawTrend(canvas, box, reading);
  },
};

export const rose: FaceWidgetKind = {
  kind: 'rose',
  title: 'Rose',
  summary: 'A compass rose with north on top',
  wants: 'direction',
  starts: [1, 0.6],
  draw(canvas, box, { reading }) {
    if (reading) drawRose(canvas, box, reading);
  },
};
