import { describe, expect, it } from 'vitest';
import {
  Canvas,
  characterFace,
  INK,
  pixelFace,
  spokenFace,
  type FaceContent,
  type PixelFace,
} from '../src/face/index.ts';
import { PLAIN } from '../src/face/fonts/plain.ts';
import { partsOf, SHELF } from '../src/plan/index.ts';
import { FAMILIES } from '../src/simulate/index.ts';
import { UNITS } from '../src/units/index.ts';
import { familyFace } from './support/familyFace.ts';

const DISPLAYS = partsOf(SHELF, 'display');
const PIXELS = DISPLAYS.filter((d) => d.widthPx > 0);
const CHARACTERS = DISPLAYS.filter((d) => d.widthPx === 0);

/** Two by four pixels a character, so that a picture can be read and compared as text. */
function asText({ width, height, pixels }: PixelFace): string {
  const DOTS = [
    [0x01, 0x08],
    [0x02, 0x10],
    [0x04, 0x20],
    [0x40, 0x80],
  ] as const;
  const lines: string[] = [];
  for (let y = 0; y < height; y += 4) {
    let line = '';
    for (let x = 0; x < width; x += 2) {
      let code = 0x2800;
      DOTS.forEach((row, j) =>
        row.forEach((dot, i) => {
          if (y + j < height && x + i < width && pixels[(y + j) * width + x + i] !== INK.ground) code += dot;
        }),
      );
      line += String.fromCharCode(code);
    }
    lines.push(line.replace(/\u2800+$/, ''));
  }
  return `${lines.join('\n')}\n`;
}

const rowsOf = (columns: number, rows: number, content: FaceContent) =>
  characterFace(columns, rows, content).cells.map((row) =>
    row.map((cell) => (cell.shape ? '#' : cell.text)).join(''),
  );
const loud = { level: 'limit' as const, name: 'Too hot, loft' };

describe('a face of pixels', () => {
  it.each(FAMILIES.map(({ family }) => [family] as const))(
    'of family %i clips nothing on any display',
    (family) => {
      for (const { widthPx, heightPx, id } of PIXELS)
        for (const look of ['auto', 'rows', 'dial', 'bar', 'trend', 'rose'] as const)
          for (const alarm of [null, loud, { level: 'unknown' as const, name: '' }]) {
            const content = familyFace(family, { look, alarm });
            const face = pixelFace(widthPx, heightPx, content);
            expect([id, look, face.outside]).toEqual([id, look, 0]);
            // What has no room is named, with a way out, and only where there is more than one.
            for (const miss of face.misses) expect(miss).toMatch(/Choose a (larger|wider) display/);
          }
    },
  );

  it.each(FAMILIES.map(({ family }, i) => [family, PIXELS[i % PIXELS.length]!.id] as const))(
    'of family %i on %s looks as it was looked at',
    async (family, id) => {
      const { widthPx, heightPx } = PIXELS.find((d) => d.id === id)!;
      const face = pixelFace(widthPx, heightPx, familyFace(family));
      await expect(asText(face)).toMatchFileSnapshot(`./goldens/faces/family-${family}-${id}.txt`);
    },
  );

  it('names what has no room, and shows it on a larger display', () => {
    const eight = { ...familyFace(14) };
    const many = { ...eight, readings: [...eight.readings, ...eight.readings] };
    expect(pixelFace(128, 64, many).misses).toEqual([
      expect.stringMatching(/^\d of 8 channels do not fit: Probe .*Choose a larger display\.$/),
    ]);
    expect(pixelFace(320, 240, many).misses).toEqual([]);
  });

  it('shows a state in words in the place of a number', () => {
    const cold = familyFace(1);
    const readings = cold.readings.map((r) => ({
      ...r,
      text: null,
      share: null,
      state: 'warming up',
      detail: '4:51',
    }));
    for (const { widthPx, heightPx } of PIXELS) {
      const face = pixelFace(widthPx, heightPx, { ...cold, readings });
      expect([face.outside, face.misses]).toEqual([0, []]);
    }
    expect(spokenFace({ ...cold, readings })).toMatch(/Ammonia warming up 4:51/);
  });

  it('a limit fills the head, in the colour of a limit', () => {
    const face = pixelFace(320, 240, familyFace(14, { alarm: loud }));
    const head = [...face.pixels.subarray(0, 320)];
    expect(new Set(head)).toEqual(new Set([INK.limit]));
    const quiet = pixelFace(320, 240, familyFace(14));
    expect([...quiet.pixels]).not.toContain(INK.limit);
  });

  it('the fonts write every unit, and the canvas counts what falls outside', () => {
    for (const { symbol } of Object.values(UNITS))
      for (const character of symbol) expect([symbol, character in PLAIN.glyphs]).toEqual([symbol, true]);
    const canvas = new Canvas(8, 8);
    canvas.fill(6, 6, 3, 3, INK.ink);
    expect(canvas.outside).toBe(5);
    expect(canvas.pixels.filter((p) => p === INK.ink)).toHaveLength(4);
  });
});

describe('a face of characters', () => {
  it('one reading stands in figures three rows high where there is room', () => {
    const rows = rowsOf(20, 4, familyFace(10));
    expect(rows[0]).toContain('#');
    expect(rows[3]).toMatch(/^Stone spindle/);
    expect(rowsOf(16, 2, familyFace(10))[0]).toMatch(/^Stone s.*rpm$/);
  });

  it('several stand in rows with their names and whole units', () => {
    const rows = rowsOf(20, 4, familyFace(14));
    expect(rows).toHaveLength(4);
    for (const [k, row] of rows.entries()) expect(row).toMatch(new RegExp(`^Probe ${k + 1} +\\d+ °C$`));
    expect(rows.map((r) => r.length)).toEqual([20, 20, 20, 20]);
  });

  it('keep their places, whichever is the highest, and say the part of a name that tells them apart', () => {
    const content = familyFace(14);
    const readings = content.readings.map((r, k) => ({
      ...r,
      name: `${r.name}, ${['door', 'loft'][k % 2]} side`,
    }));
    const rows = rowsOf(20, 4, { ...content, readings, big: 2 });
    expect(rows[0]).toMatch(/^door side +\d+ °C$/);
    expect(rows[1]).toMatch(/^loft side +\d+ °C$/);
  });

  it('an alarm takes the last row, and what has to give way is named', () => {
    const { cells, misses } = characterFace(20, 4, familyFace(14, { alarm: loud }));
    expect(cells[3]!.map((c) => c.text).join('')).toBe('LIMIT Too hot, loft ');
    expect(misses).toEqual([expect.stringMatching(/1 of 4 channels do not fit beside the alarm: Probe 4/)]);
    expect(characterFace(20, 4, familyFace(10, { alarm: loud })).misses).toEqual([]);
  });

  it.each(FAMILIES.map(({ family }) => [family] as const))(
    'of family %i never cuts a value or its unit',
    (family) => {
      for (const { columns, rows } of CHARACTERS)
        for (const miss of characterFace(columns, rows, familyFace(family)).misses)
          expect(miss).toMatch(/channels do not fit|no room for its unit: write “\S+” beside/);
    },
  );

  it('writes what it has letters for', () => {
    const content = familyFace(10);
    const odd = { ...content.readings[0]!, unit: 'µΩ·m²', text: '−4' };
    expect(rowsOf(20, 2, { ...content, readings: [odd] })[0]).toContain('-4 uOhm·m2');
  });
});
