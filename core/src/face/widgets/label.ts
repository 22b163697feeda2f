import { fitted, INK } from '../canvas.ts';
import { BOLD } from '../fonts/bold.ts';
import { LARGE } from '../fonts/large.ts';
import { PLAIN } from '../fonts/plain.ts';
import { SMALL } from '../fonts/small.ts';
import type { FaceWidgetKind } from './kind.ts';

/** Words of the maker's own. */
export const label: FaceWidgetKind = {
  kind: 'label',
  title: 'Text',
  summary: 'Your own text',
  wants: 'none',
  starts: [0.5, 0.14],
  draw(canvas, box, { title }, misses) {
    const font = [LARGE, BOLD, PLAIN, SMALL].find(
      (f) => f.height <= box.height && fitted(f, title, box.width) === title,
    );
    if (font) canvas.text(font, box.x, box.y + Math.floor((box.height - font.height) / 2), title, INK.ink);
    else misses.push(`“${title}” does not fit. Enlarge the item or shorten the text.`);
  },
  write(grid, { title }, misses) {
    if (title.length > grid.columns)
      misses.push(`“${title}” does not fit. Enlarge the item or shorten the text.`);
    grid.line(0, title);
  },
};
