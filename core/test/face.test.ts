import { describe, expect, it } from 'vitest';
import {
  Canvas,
  characterPage,
  displayGrid,
  FACE_WIDGETS,
  INK,
  pixelPage,
  spokenPage,
  startingPages,
  stopwatchOf,
  type DisplayGrid,
  type FaceAlarm,
  type PageContent,
  type PixelFace,
} from '../src/face/index.ts';
import { PLAIN } from '../src/face/fonts/plain.ts';
import type { FaceWidget, NowFigure, SeenEvent } from '../src/model/index.ts';
import { partsOf, SHELF } from '../src/plan/index.ts';
import { FAMILIES } from '../src/simulate/index.ts';
import { UNITS } from '../src/units/index.ts';
import { contentOf, familyReadings, startingContent, type Shown } from './support/familyFace.ts';

const DISPLAYS = partsOf(SHELF, 'display').map((d) => ({ id: d.id, grid: displayGrid(d) }));
const PIXELS = DISPLAYS.filter((d) => d.grid.cellPx > 0);
const CHARACTERS = DISPLAYS.filter((d) => d.grid.cellPx === 0);
const gridOf = (id: string) => DISPLAYS.find((d) => d.id === id)!.grid;
const characters = (columns: number, rows: number) => displayGrid({ widthPx: 0, heightPx: 0, columns, rows });
const everyFamily = FAMILIES.map(({ family }) => [family] as const);

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
  return lines.join('\n');
}

const rowsOf = (grid: DisplayGrid, content: PageContent) =>
  characterPage(grid, content).cells.map((row) => row.map((cell) => (cell.shape ? '#' : cell.text)).join(''));
const loud: FaceAlarm = { level: 'limit', name: 'Too hot, loft' };
const widget = (kind: string, at: Partial<FaceWidget> = {}): FaceWidget => ({
  id: 'w',
  kind,
  channelId: '',
  figureId: null,
  text: '',
  x: 0,
  y: 0,
  width: 10,
  height: 4,
  ...at,
});
/** One widget alone on a display. */
const alone = (spec: FaceWidget, shown: readonly Shown[], alarm: FaceAlarm = null) =>
  contentOf({ name: 'Page 1', widgets: [spec] }, shown, alarm);

describe('a face of pixels', () => {
  it.each(everyFamily)('of family %i clips nothing on any display, and leaves no channel out', (family) => {
    const shown = familyReadings(family);
    for (const { id, grid } of PIXELS)
      for (const look of ['auto', 'rows', 'dial', 'bar', 'trend', 'rose'] as const)
        for (const alarm of [null, loud, { level: 'unknown' as const, name: '' }]) {
          const pages = startingContent(grid, shown, look, alarm);
          for (const page of pages) {
            const { outside, misses } = pixelPage(grid, page);
            expect([id, look, outside, misses]).toEqual([id, look, 0, []]);
          }
          const seen = new Set(pages.flatMap((p) => p.widgets.map((w) => w.seen.reading?.name)));
          if (look === 'auto' || look === 'rows') expect(seen.size).toBe(shown.length);
        }
  });

  it.each(everyFamily)('of family %i on every display looks as it was looked at', async (family) => {
    const shown = familyReadings(family);
    const pictures = DISPLAYS.flatMap(({ id, grid }) =>
      startingContent(grid, shown).map((page, k) => {
        const text = grid.cellPx > 0 ? asText(pixelPage(grid, page)) : rowsOf(grid, page).join('\n');
        return `${id}, page ${k + 1}\n${text}\n`;
      }),
    );
    await expect(pictures.join('\n')).toMatchFileSnapshot(`./goldens/faces/family-${family}.txt`);
  });

  it('puts what has no room on further pages, and needs none on a larger display', () => {
    const four = familyReadings(14);
    const eight = [...four, ...four].map((s, k) => ({ ...s, id: `p${k}` }));
    const small = startingPages(gridOf('oled-128x64'), eight, 'p0', 'auto');
    expect(small.length).toBeGreaterThan(1);
    const rows = small.flatMap((p) => p.widgets.filter((w) => w.kind === 'row').map((w) => w.channelId));
    expect(rows).toEqual(['p1', 'p2', 'p3', 'p4', 'p5', 'p6', 'p7']);
    expect(startingPages(gridOf('colour-320x240'), eight, 'p0', 'auto')).toHaveLength(1);
    // Which one is highest changes: all have a row of their own then.
    const highest = startingPages(gridOf('colour-320x240'), four, 'highest', 'auto');
    expect(highest[0]!.widgets.filter((w) => w.kind === 'row')).toHaveLength(4);
  });

  it('shows a state in words in the place of a number', () => {
    const cold = familyReadings(1, { text: null, share: null, state: 'warming up', detail: '4:51' });
    // Also beside a picture, where it takes two lines.
    for (const { grid } of PIXELS)
      for (const look of ['auto', 'dial', 'bar', 'trend'] as const)
        for (const page of startingContent(grid, cold, look)) {
          const face = pixelPage(grid, page);
          expect([look, face.outside, face.misses]).toEqual([look, 0, []]);
        }
    expect(spokenPage(startingContent(PIXELS[0]!.grid, cold)[0]!)).toMatch(/Ammonia warming up 4:51/);
  });

  it('a limit fills the head, in the colour of a limit', () => {
    const grid = gridOf('colour-320x240');
    const shown = familyReadings(14);
    const face = pixelPage(grid, startingContent(grid, shown, 'auto', loud)[0]!);
    expect(new Set(face.pixels.subarray(0, 320))).toEqual(new Set([INK.limit]));
    const quiet = pixelPage(grid, startingContent(grid, shown)[0]!);
    expect([...quiet.pixels]).not.toContain(INK.limit);
  });

  it('paints an alarm over a page that has no place for it', () => {
    const grid = gridOf('memory-144x168');
    const shown = familyReadings(9);
    const spec = widget('dial', { channelId: shown[0]!.id, width: grid.columns, height: grid.rows });
    const top = (alarm: FaceAlarm) =>
      new Set(pixelPage(grid, alone(spec, shown, alarm)).pixels.subarray(0, grid.widthPx));
    expect(top(loud)).toEqual(new Set([INK.limit]));
    expect(top({ level: 'quiet', name: '' })).not.toContain(INK.limit);
  });

  it('names what reaches beyond the display, and what it does not know', () => {
    const grid = gridOf('oled-128x64');
    const shown = familyReadings(9);
    const of = (spec: FaceWidget) => pixelPage(grid, alone({ ...spec, channelId: shown[0]!.id }, shown));
    const wide = of(widget('dial', { x: 30, width: 3 }));
    expect(wide.outside).toBe(0);
    expect(wide.misses).toEqual([
      expect.stringMatching(/^Dial at column 31, row 1 extends beyond the display/),
    ]);
    expect(of(widget('hologram')).misses).toEqual([expect.stringMatching(/Remove it/)]);
    expect(pixelPage(grid, { widgets: [], alarm: null }).misses).toEqual([
      expect.stringMatching(/This page is empty/),
    ]);
  });

  it.each(FACE_WIDGETS.map((k) => [k.kind, k] as const))(
    '%s draws within its box, whatever its size',
    (kind, { draw }) => {
      const shown = familyReadings(7);
      const { seen } = alone(widget(kind, { channelId: shown[0]!.id, text: 'Loft' }), shown, loud)
        .widgets[0]!;
      for (let width = 8; width <= 160; width += 8)
        for (let height = 8; height <= 120; height += 8) {
          const canvas = new Canvas(width + 20, height + 20);
          draw(canvas, { x: 10, y: 10, width, height }, seen, []);
          const strays = canvas.pixels.filter((ink, i) => {
            const [x, y] = [i % canvas.width, Math.floor(i / canvas.width)];
            return ink !== INK.ground && (x < 10 || y < 10 || x >= 10 + width || y >= 10 + height);
          });
          expect([kind, width, height, strays.length + canvas.outside]).toEqual([kind, width, height, 0]);
        }
    },
  );

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
  const [two, four] = [characters(16, 2), characters(20, 4)];

  it('one reading stands in figures three rows high where there is room', () => {
    const rows = rowsOf(four, startingContent(four, familyReadings(10))[0]!);
    expect(rows[0]).toContain('#');
    expect(rows[3]).toMatch(/^Millstone spindle/);
    expect(rowsOf(two, startingContent(two, familyReadings(10))[0]!)[0]).toMatch(/^Millsto.*rpm$/);
  });

  it('several stand in rows with their names and whole units', () => {
    const rows = rowsOf(four, startingContent(four, familyReadings(14))[0]!);
    expect(rows).toHaveLength(4);
    for (const [k, row] of rows.entries()) expect(row).toMatch(new RegExp(`^Probe ${k + 1} +\\d+ °C$`));
    expect(rows.map((r) => r.length)).toEqual([20, 20, 20, 20]);
  });

  it('say the part of a name that tells them apart', () => {
    const shown = familyReadings(14).map((s, k) => ({
      ...s,
      reading: { ...s.reading, name: `${s.reading.name}, ${['door', 'loft'][k % 2]} side` },
    }));
    const rows = rowsOf(four, startingContent(four, shown)[0]!);
    expect(rows[0]).toMatch(/^door side +\d+ °C$/);
    expect(rows[1]).toMatch(/^loft side +\d+ °C$/);
  });

  it('an alarm takes the last row, and what has to give way is named', () => {
    const page = startingContent(four, familyReadings(14), 'auto', loud)[0]!;
    expect(rowsOf(four, page)[3]).toBe('LIMIT Too hot, loft ');
    expect(characterPage(four, page).misses).toEqual([
      expect.stringMatching(/^Probe 4 is covered by the alarm/),
    ]);
    const single = startingContent(four, familyReadings(10), 'auto', loud)[0]!;
    expect(characterPage(four, single).misses).toEqual([]);
  });

  it.each(everyFamily)('of family %i never cuts a value or its unit', (family) => {
    for (const { grid } of CHARACTERS)
      for (const page of startingContent(grid, familyReadings(family)))
        for (const miss of characterPage(grid, page).misses)
          expect(miss).toMatch(/No room for the unit\. Write “\S+” next to/);
  });

  it('has no minus before a zero that was cut short', () => {
    const long = familyReadings(10, { text: '-0.0004', unit: 'rounds a minute' });
    expect(rowsOf(characters(4, 1), startingContent(characters(4, 1), long)[0]!)[0]).toBe('0.00');
  });

  it('writes what it has letters for', () => {
    const odd = familyReadings(10, { unit: 'µΩ·m²', text: '−4' });
    expect(rowsOf(characters(20, 2), startingContent(characters(20, 2), odd)[0]!)[0]).toContain('-4 uOhm·m2');
    expect(rowsOf(four, startingContent(four, familyReadings(10, { text: '−42' }))[0]!)[1]).toMatch(/^###/);
  });

  it.each([
    ['peak', /^Loft max +9\.8/],
    ['extremes', /^Loft +1\.2\.\.9\.8/],
    ['stopwatch', /running +7\.4 s/],
    ['bar', /^#+/],
    ['label', /^Loft {16}$/],
  ])('%s is written in one row', (kind, what) => {
    const shown = familyReadings(8);
    const spec = widget(kind, { channelId: shown[0]!.id, text: 'Loft', width: 20, height: 1 });
    expect(rowsOf(four, alone(spec, shown))[0]).toMatch(what);
  });

  it('names what characters cannot show', () => {
    const shown = familyReadings(9);
    const spec = widget('rose', { channelId: shown[0]!.id, width: 4, height: 2 });
    expect(characterPage(four, alone(spec, shown)).misses).toEqual([
      expect.stringMatching(/^Compass rose .*does not work on a character display/),
    ]);
  });
});

describe('a stopwatch', () => {
  const spec = {
    id: 'race',
    kind: 'time-between',
    name: 'Race time',
    watches: { from: 'start', to: 'finish' },
    others: [],
    params: {},
    askId: null,
  };
  const now = (change: Partial<NowFigure>): NowFigure => ({
    id: 'race',
    name: 'Race time',
    value: null,
    unit: 's',
    uncertainty: null,
    decimals: 2,
    reason: 'Waiting for the start.',
    how: '',
    timeS: null,
    sinceS: 0,
    tolerance: null,
    ...change,
  });
  const start = (timeS: number, counted = true): SeenEvent => ({
    watchId: 'start',
    what: 'event',
    timeS,
    endS: timeS,
    at: null,
    value: null,
    area: null,
    uTimeS: null,
    counted,
    why: '',
  });

  it('goes from not ready over ready and running to its result, and back by a reset', () => {
    expect(stopwatchOf(spec, null, [], 1)).toEqual({ state: 'set', text: null });
    expect(stopwatchOf(spec, now({}), [], Number.NaN)).toEqual({ state: 'set', text: null });
    expect(stopwatchOf(spec, now({}), [], 5)).toEqual({ state: 'ready', text: null });
    expect(stopwatchOf(spec, now({}), [start(6)], 8.25)).toEqual({ state: 'running', text: '2.3' });
    const done = now({ value: 9.456, timeS: 15.456, reason: null });
    expect(stopwatchOf(spec, done, [start(6)], 30)).toEqual({ state: 'result', text: '9.46' });
    expect(stopwatchOf(spec, done, [start(6), start(40)], 41)).toEqual({ state: 'running', text: '1.0' });
    expect(stopwatchOf(spec, now({ sinceS: 50 }), [start(6), start(40)], 52).state).toBe('ready');
  });

  it('takes no start that does not count', () => {
    expect(stopwatchOf(spec, now({}), [start(6, false)], 8).state).toBe('ready');
  });
});
