import type { BitmapFont } from './fonts/bitmapFont.ts';

/** What a pixel is painted with; a display of one ink shows all but the ground alike. */
export const INK = { ground: 0, ink: 1, dim: 2, caution: 3, limit: 4, calm: 5, accent: 6 } as const;
export type Ink = (typeof INK)[keyof typeof INK];

/** Pixels of a small display, drawn one by one. What would fall outside is counted, never drawn. */
export class Canvas {
  readonly pixels: Uint8Array;
  /** Pixels that fell outside: 0 when nothing is clipped. */
  outside = 0;
  readonly width: number;
  readonly height: number;

  constructor(width: number, height: number) {
    this.width = width;
    this.height = height;
    this.pixels = new Uint8Array(width * height);
  }

  set(x: number, y: number, ink: Ink): void {
    const [column, row] = [Math.round(x), Math.round(y)];
    if (column < 0 || row < 0 || column >= this.width || row >= this.height) this.outside++;
    else this.pixels[row * this.width + column] = ink;
  }

  fill(x: number, y: number, width: number, height: number, ink: Ink): void {
    for (let j = 0; j < height; j++) for (let i = 0; i < width; i++) this.set(x + i, y + j, ink);
  }

  clear(x: number, y: number, width: number, height: number): void {
    this.fill(x, y, width, height, INK.ground);
  }

  frame(x: number, y: number, width: number, height: number, ink: Ink): void {
    this.fill(x, y, width, 1, ink);
    this.fill(x, y + height - 1, width, 1, ink);
    this.fill(x, y, 1, height, ink);
    this.fill(x + width - 1, y, 1, height, ink);
  }

  line(x0: number, y0: number, x1: number, y1: number, ink: Ink): void {
    const steps = Math.max(1, Math.ceil(Math.max(Math.abs(x1 - x0), Math.abs(y1 - y0))));
    for (let i = 0; i <= steps; i++)
      this.set(x0 + ((x1 - x0) * i) / steps, y0 + ((y1 - y0) * i) / steps, ink);
  }

  /** Part of a circle, from one angle to another, clockwise from the top, degrees. */
  arc(x: number, y: number, radius: number, from: number, to: number, ink: Ink): void {
    const steps = Math.max(1, Math.ceil((Math.abs(to - from) / 180) * Math.PI * radius));
    for (let i = 0; i <= steps; i++) {
      const a = ((from + ((to - from) * i) / steps) * Math.PI) / 180;
      this.set(x + radius * Math.sin(a), y - radius * Math.cos(a), ink);
    }
  }

  /** Text with its upper left corner there, each pixel so many wide and high. Characters that the font lacks become "?". */
  text(font: BitmapFont, x: number, y: number, text: string, ink: Ink, scale = 1): void {
    const digits = Math.ceil(font.width / 4);
    [...text].forEach((character, k) => {
      const rows = font.glyphs[character] ?? font.glyphs['?']!;
      for (let j = 0; j < font.height; j++) {
        const bits = parseInt(rows.slice(j * digits, (j + 1) * digits), 16);
        for (let i = 0; i < font.width; i++)
          if ((bits >> (font.width - 1 - i)) & 1)
            this.fill(x + (k * font.width + i) * scale, y + j * scale, scale, scale, ink);
      }
    });
  }
}

/** How wide a text is, pixels. */
export const widthOf = (font: BitmapFont, text: string, scale = 1): number =>
  [...text].length * font.width * scale;

/** As much of a text as so many pixels hold, with an ellipsis where some is left out. */
export function fitted(font: BitmapFont, text: string, width: number): string {
  const room = Math.floor(width / font.width);
  const all = [...text];
  return all.length <= room
    ? text
    : room < 2
      ? ''
      : `${all
          .slice(0, room - 1)
          .join('')
          .trimEnd()}…`;
}

/** First and last row that figures of a font have a pixel in. */
export function figureRows(font: BitmapFont): readonly [first: number, last: number] {
  const digits = Math.ceil(font.width / 4);
  const rows = Array.from({ length: font.height }, (_, j) =>
    parseInt(font.glyphs['0']!.slice(j * digits, (j + 1) * digits), 16),
  );
  return [rows.findIndex((r) => r > 0), rows.findLastIndex((r) => r > 0)];
}
