import { INK, widthOf } from '../canvas.ts';
import { SMALL } from '../fonts/small.ts';
import { printSignificant } from '../../units/index.ts';
import type { FaceWidgetKind } from './kind.ts';

/** How much of each frequency is in the newest readings. */
export const spectrum: FaceWidgetKind = {
  kind: 'spectrum',
  title: 'Spectrum',
  summary: 'Frequency content of the latest readings, with the strongest frequency named',
  wants: 'reading',
  starts: [1, 0.5],
  draw(canvas, { x, y, width, height }, { spectrum: of }) {
    const foot = height >= 3 * SMALL.height ? SMALL.height + 1 : 0;
    const high = height - foot;
    canvas.fill(x, y + high - 1, width, 1, INK.dim);
    if (!of || of.hz.length < 2) {
      const text = 'waiting';
      if (widthOf(SMALL, text) <= width && SMALL.height <= high) canvas.text(SMALL, x, y, text, INK.dim);
      return;
    }
    const most = Math.max(...of.size);
    const last = of.hz.at(-1)!;
    for (let i = 0; i < width; i++) {
      // The strongest line within the column: none is lost between two of them.
      let strongest = 0;
      const [from, to] = [(i / width) * last, ((i + 1) / width) * last];
      of.hz.forEach((hz, k) => {
        if (hz > from && hz <= to) strongest = Math.max(strongest, of.size[k]!);
      });
      const up = most > 0 ? Math.round(((high - 2) * strongest) / most) : 0;
      if (up > 0) canvas.fill(x + i, y + high - 1 - up, 1, up, INK.accent);
    }
    if (foot === 0) return;
    const strongest = `${printSignificant(of.hz[of.size.indexOf(most)]!, 3)} Hz`;
    const end = `${printSignificant(last, 3)} Hz`;
    if (widthOf(SMALL, strongest) > width) return;
    canvas.text(SMALL, x, y + height - SMALL.height, strongest, INK.ink);
    if (widthOf(SMALL, strongest + end) + 6 <= width)
      canvas.text(SMALL, x + width - widthOf(SMALL, end), y + height - SMALL.height, end, INK.dim);
  },
};
