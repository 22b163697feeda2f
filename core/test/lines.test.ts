import { describe, expect, it } from 'vitest';
import { detectLines, mappedReader, nmeaFix, type LineReading } from '../src/formats/index.ts';
import type { LineMapping } from '../src/model/lineMapping.ts';
import { seededRandom } from '../src/numerics/index.ts';

const COLUMNS = ['p1', 'p2'];
const readAll = (lines: readonly string[], columns = COLUMNS) => {
  const detected = detectLines(lines, columns)!;
  return { detected, results: lines.map(mappedReader(detected.mapping, columns)) };
};
const readings = (results: readonly LineReading[]) =>
  results.flatMap((r) => (r.kind === 'reading' ? [[r.timeS, ...r.values]] : []));
const base: LineMapping = {
  format: 'separated',
  delimiter: ',',
  decimal: '.',
  time: null,
  sequence: null,
  columns: [
    { column: 'p1', field: '1' },
    { column: 'p2', field: '2' },
  ],
};

describe('the format of lines', () => {
  it.each<[string, string[], Partial<LineMapping>, (number | null)[][]]>([
    [
      'separated, with a heading that names the columns in another order',
      ['ms,p2,p1', '100,20,10', '200,21,11', '300,22,12'],
      { format: 'separated', delimiter: ',', time: { field: '1', unit: 'ms' } },
      [
        [0.1, 10, 20],
        [0.2, 11, 21],
        [0.3, 12, 22],
      ],
    ],
    [
      'separated without a heading: time is what only grows',
      ['1000 511 20', '1100 512 21', '1200 509 22', '1301 511 20'],
      { delimiter: ' ', time: { field: '1', unit: 'ms' } },
      [
        [1, 511, 20],
        [1.1, 512, 21],
        [1.2, 509, 22],
        [1.301, 511, 20],
      ],
    ],
    [
      'numbers alone: the time of arrival',
      ['511\t20', '512\t21', '509\t22', '511\t20'],
      { delimiter: '\t', time: null },
      [
        [null, 511, 20],
        [null, 512, 21],
        [null, 509, 22],
        [null, 511, 20],
      ],
    ],
    [
      'decimal commas',
      ['t;p1;p2', '0,1;1,5;2,5', '0,2;1,6;2,6', '0,3;1,7;2,7'],
      { delimiter: ';', decimal: ',', time: { field: '1', unit: 's' } },
      [
        [0.1, 1.5, 2.5],
        [0.2, 1.6, 2.6],
        [0.3, 1.7, 2.7],
      ],
    ],
    [
      'pairs',
      ['p1: 10, p2: 20', 'p1: 11, p2: 21', 'p2: 22, p1: 12'],
      { format: 'pairs', time: null },
      [
        [null, 10, 20],
        [null, 11, 21],
        [null, 12, 22],
      ],
    ],
    [
      'key=value with a time and a number',
      ['seq=4 ms=100 P1=10 P2=20', 'seq=5 ms=200 P1=11 P2=21', 'seq=6 ms=300 P1=12 P2=22'],
      { format: 'pairs', time: { field: 'ms', unit: 'ms' }, sequence: 'seq' },
      [
        [0.1, 10, 20],
        [0.2, 11, 21],
        [0.3, 12, 22],
      ],
    ],
    [
      'JSON with dates and nested numbers',
      [1, 2, 3].map((s) => `{"time":"2026-11-26T00:00:0${s}Z","adc":{"p1":${s},"p2":${2 * s}}}`),
      { format: 'json', time: { field: 'time', unit: 'date' } },
      [1, 2, 3].map((s) => [1795651200 + s, s, 2 * s]),
    ],
  ])('%s', (_, lines, mapping, expected) => {
    const columns = mapping.format === 'json' ? ['adc.p1', 'adc.p2'] : COLUMNS;
    const { detected, results } = readAll(lines, columns);
    expect(detected.mapping).toMatchObject(mapping);
    const found = readings(results);
    expect(found).toHaveLength(expected.length);
    found.forEach((row, i) =>
      row.forEach((v, k) => {
        if (expected[i]![k] === null) expect(v).toBeNull();
        else expect(v).toBeCloseTo(expected[i]![k]!, 6);
      }),
    );
    expect(detected.unread).toBe(0);
  });

  it('position sentences: a fix when its second is over', () => {
    const lines = [0, 1, 2]
      .map((i) => nmeaFix(1.7e9 + i, [50, 8, 2 + i, 90, 640, 9, 0.8]))
      .join('')
      .trim()
      .split('\r\n');
    const { detected, results } = readAll(lines, ['speed', 'latitude']);
    expect(detected.format).toBe('sentences');
    const found = readings(results);
    expect(found).toHaveLength(2);
    expect(found[0]![1]).toBeCloseTo(2, 3);
    expect(found[1]![0]! - found[0]![0]!).toBe(1);
  });

  it('a microsecond clock is told from its steps, and a number of the reading is not taken for it', () => {
    const us = readAll([1, 2, 3, 4].map((i) => `${i * 100_000},${500 + (i % 2)},7`));
    expect(us.detected.mapping.time).toEqual({ field: '1', unit: 'us' });
    const counted = readAll([1, 2, 3, 4].map((i) => `${i},${500 + (i % 2)},7`));
    expect(counted.detected.mapping.time).toBeNull();
  });

  it('is not made up of noise, nor of nothing', () => {
    const random = seededRandom(1);
    const noise = Array.from({ length: 20 }, () =>
      String.fromCharCode(...Array.from({ length: 30 }, () => Math.floor(256 * random.uniform()))),
    );
    expect(detectLines(noise, COLUMNS)).toBeNull();
    expect(detectLines([], COLUMNS)).toBeNull();
    expect(detectLines(['hello', 'booting', 'ready'], COLUMNS)).toBeNull();
  });

  it('finds the readings among the chatter of a start', () => {
    const { detected } = readAll(['boot v2', 'p1=1 p2=2', 'p1=2 p2=3', 'p1=3 p2=4', 'p1=5 p2=5']);
    expect(detected).toMatchObject({ format: 'pairs', read: 4, unread: 1 });
  });
});

describe('mappedReader', () => {
  const read = (line: string, change: Partial<LineMapping> = {}) =>
    mappedReader({ ...base, ...change }, COLUMNS)(line);

  it('keeps a missing value missing, and its place', () => {
    for (const text of ['', 'nan', 'NULL', '--'])
      expect(read(`1,${text}`)).toMatchObject({ kind: 'reading', values: [1, Number.NaN] });
  });

  it.each<[string, string, Partial<LineMapping>, string]>([
    ['a word', '1,oops', {}, 'not-a-number'],
    ['a time that is none', 'x,2', { time: { field: '1', unit: 's' } }, 'no-time'],
    ['a time before the start', '-5,2', { time: { field: '1', unit: 's' } }, 'no-time'],
    ['no JSON', '{"p1":', { format: 'json' }, 'not-that-format'],
    ['a line without any of its fields', 'x=3', { format: 'pairs' }, 'wrong-columns'],
    ['a number of the reading that is none', '1.5,2', { sequence: '1' }, 'not-a-number'],
    ['ten megabytes', '9'.repeat(10_000_000), {}, 'too-long'],
  ])('%s is an issue', (_, line, change, code) => {
    expect(read(line, change)).toMatchObject({ kind: 'issue', code });
  });

  it('refuses half a line, whose last number may be cut short', () => {
    const reader = mappedReader(base, COLUMNS);
    expect(reader('10,20,30').kind).toBe('reading');
    expect(reader('11,2')).toMatchObject({ kind: 'issue', code: 'wrong-columns' });
    expect(reader('12,22,32').kind).toBe('reading');
  });

  it('never throws, whatever comes', () => {
    const random = seededRandom(9);
    for (const format of ['separated', 'pairs', 'json', 'sentences'] as const) {
      const reader = mappedReader({ ...base, format }, COLUMNS);
      for (let i = 0; i < 500; i++) {
        const line = String.fromCharCode(
          ...Array.from({ length: Math.floor(80 * random.uniform()) }, () =>
            Math.floor(0x300 * random.uniform()),
          ),
        );
        expect(['reading', 'issue', 'none']).toContain(reader(line).kind);
      }
    }
    expect(read(`${'['.repeat(5000)}1${']'.repeat(5000)}`, { format: 'json' }).kind).toBe('issue');
  });
});
