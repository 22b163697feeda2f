import { fitted, INK, widthOf, type Canvas } from './canvas.ts';
import { shortName } from './faceContent.ts';
import { LARGE } from './fonts/large.ts';
import { PLAIN } from './fonts/plain.ts';
import { SMALL } from './fonts/small.ts';
import type { Box } from './visuals.ts';

/** A name on the left and its value on the right, in letters as large as the row is high. */
export function rowText(canvas: Canvas, box: Box, name: string, value: string, misses: string[]): void {
  const fonts = [LARGE, PLAIN, SMALL].filter((f) => f.height <= box.height);
  const font = fonts.find((f) => widthOf(f, value) <= box.width * 0.7) ?? fonts.at(-1);
  const wide = font ? widthOf(font, value) : Infinity;
  if (!font || wide > box.width) {
    misses.push(`${name}: “${value}” does not fit in its row. Choose a wider display or enlarge the item.`);
    if (font) canvas.text(font, box.x, box.y, fitted(font, value, box.width), INK.ink);
    return;
  }
  const y = box.y + Math.floor((box.height - font.height) / 2);
  canvas.text(font, box.x + box.width - wide, y, value, INK.ink);
  const left = box.width - wide - font.width;
  canvas.text(font, box.x, y, fitted(font, shortName(name, Math.floor(left / font.width)), left), INK.dim);
}
