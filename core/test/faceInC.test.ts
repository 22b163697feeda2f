import { describe, expect, it } from 'vitest';
import { emitAlarms } from '../src/alarm/index.ts';
import {
  characterPage,
  displayGrid,
  emitFace,
  startingPages,
  withWidget,
  type DisplayGrid,
  type FaceAlarm,
  type FaceReading,
  type Race,
  type ShownInC,
  type WidgetSeen,
} from '../src/face/index.ts';
import type { FacePage } from '../src/model/index.ts';
import { seededRandom } from '../src/numerics/index.ts';
import { partsOf, SHELF } from '../src/plan/index.ts';
import { FAMILIES } from '../src/simulate/index.ts';
import { printNumber } from '../src/units/index.ts';
import { alarmRule } from './support/alarmRule.ts';
import { contentOf, familyReadings, type Shown } from './support/familyFace.ts';
import { compileAndRun } from './support/runInC.ts';

const GRIDS = partsOf(SHELF, 'display')
  .filter((d) => d.widthPx === 0)
  .map((d) => displayGrid(d));
const LEVELS = ['unknown', 'quiet', 'caution', 'limit'] as const;
const ALARM = 'Too hot, by far too hot';
/** Words for some numbers, and for those beyond the low end. */
const WORDS = [
  { name: 'reversed', from: Number.NEGATIVE_INFINITY, to: -500 },
  { name: 'stopped', from: 0, to: 0 },
  { name: 'slow, "really"', from: 0, to: 1 },
];
const SHAPES = new Map([
  ['\u0001', 'F'],
  ['\u0002', 'U'],
  ['\u0003', 'L'],
]);

/** A moment: what each thing reads, NaN for none, and how the alarms stand. */
interface Moment {
  readonly values: readonly number[];
  /** Seconds since each began, NaN for what does not run; not there where nothing is timed. */
  readonly running?: readonly number[];
  readonly level: number;
}

function moments(seed: number, shown: readonly Shown[], decimals: number): Moment[] {
  const random = seededRandom(seed);
  return Array.from({ length: 60 }, () => ({
    values: shown.map(() => {
      const dice = random.uniform();
      if (dice < 0.12) return Number.NaN;
      if (dice < 0.15) return dice < 0.135 ? Number.NEGATIVE_INFINITY : Number.POSITIVE_INFINITY;
      // Halves of the last digit, zeros from below, and numbers far too long.
      if (dice < 0.3) return (Math.round(random.normal() * 30) + 0.5) / 10 ** decimals;
      if (dice < 0.4) return -0.2 / 10 ** decimals;
      if (dice < 0.45) return 123_456_789.25 * random.normal();
      return random.normal() * 10 ** (3 * random.uniform());
    }),
    level: Math.floor(random.uniform() * 4),
  }));
}

const inBytes = (rows: readonly string[]) => rows.map((row) => row.replace(/±/g, '+-'));

function onTheBench(
  grid: DisplayGrid,
  page: FacePage,
  shown: readonly Shown[],
  decimals: number,
  at: Moment,
) {
  const now = shown.map((s, k) => {
    const value = at.values[k]!;
    const isGood = Number.isFinite(value);
    const word = WORDS.find((w) => value >= w.from && value <= w.to)?.name;
    return {
      ...s,
      reading: {
        ...s.reading,
        text: isGood && word === undefined ? printNumber(value, decimals) : null,
        state: word ?? (isGood ? '' : 'waiting'),
        // The display's own letters: plus and minus in two.
        worth: s.reading.worth.replace('±', '+-'),
        share: isGood ? value / 50 : null,
      },
    };
  });
  const alarm: FaceAlarm = { level: LEVELS[at.level]!, name: at.level > 1 ? ALARM : '' };
  return inBytes(
    characterPage(grid, contentOf(page, now, alarm)).cells.map((row) => row.map((c) => c.text).join('')),
  );
}

const inWords = (v: number) => (Number.isNaN(v) ? 'nan' : v.toPrecision(17));

function inC(
  grid: DisplayGrid,
  pages: readonly FacePage[],
  things: readonly ShownInC[],
  all: readonly Moment[],
): string[][][] {
  const alarms = emitAlarms('Mill', [alarmRule()], () => ({ name: 'x', unit: 'ppm' })).code;
  const face = emitFace('Mill', grid, pages, things, true).code;
  const main = `#include "face.h"
int main(void) {
  char cells[MILL_ROWS][MILL_COLUMNS + 1]; double v[MILL_SHOWN], since[MILL_SHOWN]; int level, timed;
  (void)mill_rules; (void)mill_alarm_names;
  while (scanf("%d %d", &level, &timed) == 2) {
    for (int k = 0; k < MILL_SHOWN; k++) if (scanf("%lf", &v[k]) != 1) return 1;
    for (int k = 0; timed && k < MILL_SHOWN; k++) if (scanf("%lf", &since[k]) != 1) return 1;
    for (int p = 0; p < MILL_PAGES; p++) {
      mill_face(cells, p, v, timed ? since : 0, level, level > LN_QUIET ? "${ALARM}" : "");
      for (int r = 0; r < MILL_ROWS; r++) printf("%s|", cells[r]);
      printf("\\n");
    }
  }
  return 0;
}`;
  const input = all
    .map((m) => [m.level, m.running ? 1 : 0, ...[...m.values, ...(m.running ?? [])].map(inWords)].join(' '))
    .join('\n');
  const lines = compileAndRun(
    { files: { 'face.h': `${alarms}\n${face}`, 'main.c': main }, main: 'main.c', flags: ['-DLN_DEGREE="~"'] },
    input,
  )
    .trimEnd()
    .split('\n')
    .map((line) =>
      line
        .slice(0, -1)
        .split('|')
        .map((row) => [...row.replace(/~/g, '°')].map((c) => SHAPES.get(c) ?? c).join('')),
    );
  return all.map((_, k) => pages.map((_p, i) => lines[k * pages.length + i]!));
}

const BLANK: FaceReading = {
  name: '',
  text: null,
  unit: '',
  worth: '',
  state: '',
  detail: '',
  share: null,
  ends: ['', ''],
  courseDeg: null,
  history: [],
};
const PLAIN: ShownInC = {
  key: 'sprint',
  name: 'Sprint',
  unit: 'm/s',
  decimals: 1,
  worth: '',
  range: null,
  states: [],
  isFollowed: false,
  lowest: null,
  highest: null,
  race: null,
};

/** Holds every page at every moment against the bench. */
function same(grid: DisplayGrid, pages: readonly FacePage[], shown: readonly Shown[], seed: number): void {
  const decimals = seed % 3;
  const all = moments(seed, shown, decimals);
  const things = shown.map(({ id, reading: { name, unit, worth } }): ShownInC => ({
    ...PLAIN,
    key: id,
    name,
    unit,
    decimals,
    worth,
    range: [0, 50],
    states: WORDS,
    isFollowed: true,
  }));
  const c = inC(grid, pages, things, all);
  all.forEach((at, k) =>
    pages.forEach((page, i) => {
      expect([at, c[k]![i]]).toEqual([at, onTheBench(grid, page, shown, decimals, at)]);
    }),
  );
}

describe('a face of characters in C', () => {
  it.each(FAMILIES.map(({ family }) => [family] as const))('of family %i has the same rows', (family) => {
    const shown = familyReadings(family);
    const grid = GRIDS[family % GRIDS.length]!;
    same(grid, startingPages(grid, shown, shown[0]!.id, 'auto'), shown, family);
  });

  it('has the same rows where it was arranged by hand', () => {
    const grid = displayGrid({ widthPx: 0, heightPx: 0, columns: 20, rows: 4 });
    const shown = familyReadings(14);
    let page: FacePage = { name: 'Page 1', widgets: [] };
    for (const kind of ['figure', 'bar']) page = withWidget(grid, page, kind, shown[1]!.id);
    let other = withWidget(grid, { name: 'Page 2', widgets: [] }, 'label', '');
    other = { ...other, widgets: other.widgets.map((w) => ({ ...w, text: 'Kiln "loft" \\ what??' })) };
    for (const kind of ['row', 'states']) other = withWidget(grid, other, kind, shown[2]!.id);
    same(grid, [page, other], shown, 4);
  });

  it.each(GRIDS.map((g) => [`${g.columns} x ${g.rows}`, g] as const))(
    'has the same held ends and the same stopwatch on %s',
    (_size, grid) => {
      const things: ShownInC[] = [
        { ...PLAIN, lowest: 'sprint/low', highest: 'sprint/high', race: 'sprint/time' },
        { ...PLAIN, key: 'sprint/low', name: 'Lowest' },
        { ...PLAIN, key: 'sprint/high', name: 'Highest reading' },
        { ...PLAIN, key: 'sprint/time', name: 'Time', unit: 's', decimals: 3, worth: '+-0.004' },
      ];
      const empty: FacePage = { name: 'Page', widgets: [] };
      const pages = ['peak', 'extremes', 'stopwatch'].map((kind) => withWidget(grid, empty, kind, 'sprint'));
      const random = seededRandom(8);
      const number = () => (random.uniform() < 0.3 ? Number.NaN : 2000 * random.normal() ** 5);
      const all = Array.from({ length: 200 }, (): Moment => ({
        values: [1, number(), number(), Math.abs(number())],
        running: [NaN, NaN, NaN, Math.abs(number())],
        level: 1,
      }));
      const told = inC(grid, pages, things, all);
      all.forEach(({ values, running }, k) => {
        const [, low, high, time] = values as [number, number, number, number];
        const printed = (v: number) => (Number.isNaN(v) ? '?' : printNumber(v, 1));
        const since = running![3]!;
        const race: Race = Number.isFinite(since)
          ? { state: 'running', text: printNumber(since, 1) }
          : Number.isFinite(time)
            ? { state: 'result', text: printNumber(time, 3) }
            : { state: 'ready', text: null };
        pages.forEach((page, p) => {
          const isRace = p === 2;
          const { name, unit, worth } = things[isRace ? 3 : 0]!;
          const seen: WidgetSeen = {
            reading: { ...BLANK, name, unit, worth, text: '1' },
            extremes: Number.isNaN(low) && Number.isNaN(high) ? null : [printed(low), printed(high)],
            race: isRace ? race : null,
            spectrum: null,
            alarm: null,
            title: name,
          };
          const face = characterPage(grid, { alarm: null, widgets: [{ spec: page.widgets[0]!, seen }] });
          const rows = face.cells.map((row) => row.map((c) => c.text).join(''));
          expect([low, high, race, told[k]![p]]).toEqual([low, high, race, rows]);
        });
      });
    },
  );

  it('says what only the bench draws', () => {
    const grid = displayGrid({ widthPx: 0, heightPx: 0, columns: 20, rows: 4 });
    const page = withWidget(grid, { name: 'Page 1', widgets: [] }, 'rose', 'a');
    expect(emitFace('Mill', grid, [page], [], false).usage.join('\n')).toMatch(
      /Displayed by Lucky Needle only: Compass rose/,
    );
  });
});
