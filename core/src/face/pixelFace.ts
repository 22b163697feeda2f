import { Canvas, figureRows, fitted, INK, widthOf, type Ink } from './canvas.ts';
import { alarmWord, shortName, type FaceContent, type FaceReading } from './faceContent.ts';
import type { BitmapFont } from './fonts/bitmapFont.ts';
import { BOLD } from './fonts/bold.ts';
import { LARGE } from './fonts/large.ts';
import { PLAIN } from './fonts/plain.ts';
import { SMALL } from './fonts/small.ts';
import { bar, dial, rose, trend, type Box, type Visual } from './visuals.ts';

/** A face as a display of pixels would show it. */
export interface PixelFace {
  readonly width: number;
  readonly height: number;
  /** Row by row, what each pixel is painted with (`INK`). */
  readonly pixels: Uint8Array;
  /** What does not fit, each with a way out. */
  readonly misses: readonly string[];
  /** Pixels that fell outside; 0 when nothing is clipped. */
  readonly outside: number;
}

/** From this width on there is room for the larger fonts. */
const WIDE = 280;
const VISUALS: Readonly<Record<'dial' | 'bar' | 'trend' | 'rose', Visual>> = { dial, bar, trend, rose };

/** Draws a face on so many pixels: what it is and its alarm on top, one reading in big figures, and the others or a picture with it. */
export function pixelFace(width: number, height: number, content: FaceContent): PixelFace {
  const canvas = new Canvas(width, height);
  const misses: string[] = [];
  const isWide = width >= WIDE;
  const [head, body] = isWide ? [BOLD, LARGE] : [PLAIN, height < 100 ? SMALL : PLAIN];
  const big = content.readings[content.big];
  const top = header(canvas, head, content, big?.name ?? '');
  const pad = isWide ? 8 : 2;
  const room: Box = {
    x: pad,
    y: top + 2,
    width: width - 2 * pad,
    height: height - top - 2 - Math.min(pad, 4),
  };
  if (!big) {
    misses.push('There is nothing to show. Build a line first.');
    return { width, height, pixels: canvas.pixels, misses, outside: canvas.outside };
  }
  const others = content.readings.filter((_, k) => k !== content.big);
  if (others.length > 0 && (content.look === 'auto' || content.look === 'rows'))
    withRows(canvas, room, body, big, others, misses);
  else withVisual(canvas, room, body, big, content.look, misses);
  return { width, height, pixels: canvas.pixels, misses, outside: canvas.outside };
}

/** A bar with the name; filled and with the alarm's own name while one is on. @returns its height */
function header(canvas: Canvas, font: BitmapFont, { alarm }: FaceContent, name: string): number {
  const height = font.height + 2;
  const word = alarmWord(alarm);
  const isOn = alarm?.level === 'caution' || alarm?.level === 'limit';
  const ground: Ink = alarm?.level === 'limit' ? INK.limit : INK.caution;
  if (isOn) canvas.fill(0, 0, canvas.width, height, ground);
  else canvas.fill(0, height - 1, canvas.width, 1, INK.dim);
  const ink = isOn ? INK.ground : INK.ink;
  const right = word ? widthOf(font, word) + 2 : 0;
  if (word) canvas.text(font, canvas.width - right, 1, word, isOn ? ink : INK.caution);
  const text = fitted(font, isOn ? alarm!.name : name, canvas.width - right - font.width - 2);
  canvas.text(font, 2, 1, text, ink);
  return height;
}

/** The big reading, and the others in rows below or beside it. */
function withRows(
  canvas: Canvas,
  room: Box,
  font: BitmapFont,
  big: FaceReading,
  others: readonly FaceReading[],
  misses: string[],
): void {
  const step = font.height + (font === LARGE ? 4 : 1);
  const least = figureRows(LARGE)[1] - figureRows(LARGE)[0] + 3;
  const columns = room.width >= WIDE && others.length > 3 ? 2 : 1;
  const wanted = Math.ceil(others.length / columns);
  const fit = Math.max(0, Math.min(wanted, Math.floor((room.height - least) / step)));
  const shown = others.slice(0, fit * columns);
  if (shown.length < others.length)
    misses.push(
      `${others.length - shown.length} of ${others.length + 1} channels do not fit: ${others
        .slice(shown.length)
        .map((r) => r.name)
        .join(', ')}. Choose a larger display.`,
    );
  const listTop = room.y + room.height - fit * step;
  figure(canvas, { ...room, height: listTop - room.y }, big, misses);
  const width = Math.floor((room.width - (columns - 1) * 10) / columns);
  shown.forEach((reading, k) => {
    const x = room.x + (k % columns) * (width + 10);
    const y = listTop + Math.floor(k / columns) * step;
    row(canvas, font, { x, y, width, height: step }, reading, misses);
  });
}

function row(canvas: Canvas, font: BitmapFont, box: Box, reading: FaceReading, misses: string[]): void {
  const value = reading.text === null ? reading.state : `${reading.text} ${reading.unit}`.trim();
  const wide = widthOf(font, value);
  if (wide > box.width) {
    misses.push(`${reading.name}: “${value}” is wider than its row. Choose a wider display.`);
    canvas.text(font, box.x, box.y, fitted(font, value, box.width), INK.ink);
    return;
  }
  canvas.text(font, box.x + box.width - wide, box.y, value, INK.ink);
  const left = box.width - wide - font.width;
  const name = fitted(font, shortName(reading.name, Math.floor(left / font.width)), left);
  canvas.text(font, box.x, box.y, name, INK.dim);
}

/** The big reading with something to see beside or below it. */
function withVisual(
  canvas: Canvas,
  room: Box,
  font: BitmapFont,
  big: FaceReading,
  look: FaceContent['look'],
  misses: string[],
): void {
  const kind = visualFor(look, big, room);
  const isBeside = kind !== 'bar' && room.width > 1.5 * room.height && room.width >= 120;
  const share = kind === 'bar' ? (room.height > 100 ? 0.25 : 0.32) : 0.55;
  const gap = 4;
  const beside: Box = isBeside
    ? {
        ...room,
        x: room.x + room.width - Math.round(room.height * 1.15),
        width: Math.round(room.height * 1.15),
      }
    : { ...room, y: room.y + Math.round(room.height * (1 - share)), height: Math.round(room.height * share) };
  const left: Box = isBeside
    ? { ...room, width: room.width - beside.width - gap }
    : { ...room, height: room.height - beside.height - gap };
  figure(canvas, left, big, misses, font);
  VISUALS[kind](canvas, beside, big);
}

function visualFor(
  look: FaceContent['look'],
  { courseDeg, share }: FaceReading,
  room: Box,
): keyof typeof VISUALS {
  if (look === 'dial' || look === 'bar' || look === 'trend') return look;
  if (look === 'rose' && courseDeg !== null) return look;
  if (courseDeg !== null) return 'rose';
  if (share === null) return 'trend';
  return room.height >= 80 ? 'dial' : 'bar';
}

/** The figures as large as they fit, with unit and worth; a state in words where there are none. */
function figure(
  canvas: Canvas,
  box: Box,
  big: FaceReading,
  misses: string[],
  font: BitmapFont = SMALL,
): void {
  const [first, last] = figureRows(LARGE);
  const digits = last - first + 1;
  if (big.text === null) {
    const whole = `${big.state} ${big.detail}`.trim();
    const words = [LARGE, PLAIN, SMALL].find((f) => widthOf(f, whole) <= box.width && f.height <= box.height);
    if (words) canvas.text(words, box.x, box.y + Math.floor((box.height - words.height) / 2), whole, INK.ink);
    else misses.push(`“${whole}” does not fit. Choose a larger display.`);
    return;
  }
  const unitFont = font === SMALL && box.height >= 40 ? PLAIN : font;
  const beside = widthOf(unitFont, big.unit) + (big.unit ? 3 : 0);
  let scale = 8;
  while (
    scale > 1 &&
    (widthOf(LARGE, big.text, scale) + beside > box.width || digits * scale > box.height - 1)
  )
    scale--;
  const wide = widthOf(LARGE, big.text, scale);
  if (wide + beside > box.width) {
    // Without its unit a number says nothing: smaller, with it.
    const whole = `${big.text} ${big.unit}`.trim();
    const small = [PLAIN, SMALL].find((f) => widthOf(f, whole) <= box.width);
    if (small) canvas.text(small, box.x, box.y + Math.floor((box.height - small.height) / 2), whole, INK.ink);
    else misses.push(`“${whole}” does not fit. Choose a wider display.`);
    return;
  }
  const y = box.y + Math.floor((box.height - digits * scale) / 2);
  canvas.text(LARGE, box.x, y - first * scale, big.text, INK.ink, scale);
  const foot = y + digits * scale;
  if (big.unit)
    canvas.text(unitFont, box.x + wide + 3, Math.max(box.y, foot - unitFont.height + 2), big.unit, INK.ink);
  // Its worth stands above the unit where both fit.
  const worth = big.worth;
  const above = foot - 2 * unitFont.height + 1;
  if (worth && above >= box.y && wide + 3 + widthOf(SMALL, worth) <= box.width)
    canvas.text(SMALL, box.x + wide + 3, above, worth, INK.dim);
}
