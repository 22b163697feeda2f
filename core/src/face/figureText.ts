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
    words(canvas, box, `${big.state} ${big.detail}`.trim(), misses);
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
    else misses.push(`“${whole}” does not fit. Choose a wider display or enlarge the item.`);
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

/** Words in the largest letters in which they fit, on as many lines as there is room for. */
function words(canvas: Canvas, box: Box, text: string, misses: string[]): void {
  for (const font of [LARGE, PLAIN, SMALL]) {
    const lines = wrapped(text, Math.floor(box.width / font.width));
    if (lines === null || lines.length * font.height > box.height) continue;
    const top = box.y + Math.floor((box.height - lines.length * font.height) / 2);
    lines.forEach((line, k) => canvas.text(font, box.x, top + k * font.height, line, INK.ink));
    return;
  }
  misses.push(`“${text}” does not fit. Choose a larger display or enlarge the item.`);
}

/** A text in lines of so many letters at the most; null where a word is longer. */
function wrapped(text: string, letters: number): string[] | null {
  const lines: string[] = [];
  for (const word of text.split(' ')) {
    if (word.length > letters) return null;
    const last = lines.at(-1);
    if (last !== undefined && last.length + 1 + word.length <= letters)
      lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines;
}
