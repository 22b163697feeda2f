import {
  bar as drawBar,
  dial as drawDial,
  rose as drawRose,
  trend as drawTrend,
  type Visual,
} from '../visuals.ts';
import type { FaceWidgetKind } from './kind.ts';

type Told = Pick<FaceWidgetKind, 'kind' | 'title' | 'summary' | 'wants' | 'starts' | 'write'>;

/** A picture of one reading. */
const picture = (told: Told, drawn: Visual): FaceWidgetKind => ({
  ...told,
  draw(canvas, box, { reading }) {
    if (reading) drawn(canvas, box, reading);
  },
});

export const dial = picture(
  {
    kind: 'dial',
    title: 'Dial',
    summary: 'A needle between the limits of the brief’s range',
    wants: 'reading',
    starts: [1, 0.5],
  },
  drawDial,
);

export const trend = picture(
  {
    kind: 'trend',
    title: 'Trend',
    summary: 'The last minute, scaled from its lowest to its highest reading',
    wants: 'reading',
    starts: [1, 0.4],
  },
  drawTrend,
);

export const rose = picture(
  {
    kind: 'rose',
    title: 'Compass rose',
    summary: 'Direction, with north at the top',
    wants: 'direction',
    starts: [1, 0.6],
  },
  drawRose,
);

export const bar = picture(
  {
    kind: 'bar',
    title: 'Bar',
    summary: 'How much of the brief’s range is reached',
    wants: 'reading',
    starts: [1, 0.25],
    write(grid, { reading }) {
      if (!reading || reading.share === null) return;
      const halves = Math.round(2 * grid.columns * Math.min(1, Math.max(0, reading.share)));
      for (let column = 0; column < Math.floor(halves / 2); column++) grid.block(column, 0, 'F');
      if (halves % 2 === 1) grid.block(Math.floor(halves / 2), 0, 'L');
    },
  },
  drawBar,
);
