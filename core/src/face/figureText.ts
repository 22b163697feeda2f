import { figureRows, INK, widthOf, type Canvas } from './canvas.ts';
import type { FaceReading } from './faceContent.ts';
import { LARGE } from './fonts/large.ts';
import { PLAIN } from './fonts/plain.ts';
import { SMALL } from './fonts/small.ts';
import type { Box } from './visuals.ts';

/** From this width on there is room for larger letters. */
const WIDE_BOX = 130;

/** The figures as large as they fit, with unit and worth; a state in words where there are none. */
export function figureText(canvas: Canvas, box: Box, big: FaceReading, misses: string[]): void {
  const [first, last] = figureRows(LARGE);
  const digits = last - first + 1;
  if (big.text === null) {
    const whole = `${big.state} ${big.detail}`.trim();
    const words = [LARGE, PLAIN, SMALL].find((f) => widthOf(f, whole) <= box.width && f.height <= box.height);
    if (words) canvas.text(words, box.x, box.y + Math.floor((box.height - words.height) / 2), whole, INK.ink);
    else misses.push(`“${whole}” does not fit. Choose a larger display, or give it more room.`);
    return;
  }
  const unitFont = box.height >= 60 && box.width >= WIDE_BOX ? LARGE : box.height >= 30 ? PLAIN : SMALL;
  const beside = widthOf(unitFont, big.unit) + (big.unit ? 3 : 0);
  let scale = 8;
  while (
    scale > 1 &&
    (widthOf(LARGE, big.text, scale) + beside > box.width || digits * scale > box.height - 1)
  )
    scale--;
  const wide = widthOf(LARGE, big.text, scale);
  if (wide + beside > box.width || digits > box.height) {
    // Without its unit a number says nothing: smaller, with it.
    const whole = `${big.text} ${big.unit}`.trim();
    const small = [PLAIN, SMALL].find((f) => widthOf(f, whole) <= box.width && f.height <= box.height);
    if (small) canvas.text(small, box.x, box.y + Math.floor((box.height - small.height) / 2), whole, INK.ink);
    else misses.push(`“${whole}” does not fit. Choose a wider display, or give it more room.`);
    return;
  }
  const y = box.y + Math.floor((box.height - digits * scale) / 2);
  canvas.text(LARGE, box.x, y - first * scale, big.text, INK.ink, scale);
  const foot = y + digits * scale;
  const unitY = Math.max(box.y, Math.min(foot - unitFont.height + 2, box.y + box.height - unitFont.height));
  if (big.unit) canvas.text(unitFont, box.x + wide + 3, unitY, big.unit, INK.ink);
  // Its worth stands above the unit where both fit.
  const above = unitY - SMALL.height;
  if (big.worth && above >= box.y && wide + 3 + widthOf(SMALL, big.worth) <= box.width)
    canvas.text(SMALL, box.x + wide + 3, above, big.worth, INK.dim);
}
