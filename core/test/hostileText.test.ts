import { describe, expect, it } from 'vitest';
import {
  boardReader,
  collectTable,
  detectFile,
  detectLines,
  delimitedReader,
  gpxReader,
  lineFields,
  mappedReader,
  ndjsonReader,
  nmeaReader,
  pairsLogReader,
  planDelimited,
  senmlReader,
  writeCalendar,
} from '../src/formats/index.ts';
import { formulaExpression } from '../src/stages/formulaExpression.ts';
import { findRuns } from '../src/trial/index.ts';
import { isoSeconds, parseQuantity } from '../src/units/index.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
const table =
  (read: (sink: ReturnType<typeof collectTable>) => { push(t: string): void; finish(): void }) =>
  (text: string) => {
    const reader = read(collectTable());
    reader.push(text);
    reader.finish();
  };

/** Everything that looks at text from outside. */
const SCANNERS: Readonly<Record<string, (text: string) => unknown>> = {
  'what a file is': (text) => detectFile(bytes(text)),
  'what lines are': (text) => detectLines([text, text], ['a']),
  'fields of pairs': (text) => lineFields(text, { format: 'pairs', delimiter: ',' }),
  'a console log': table((sink) => pairsLogReader(1, sink)),
  'JSON lines': table((sink) => ndjsonReader(sink)),
  'position sentences': table((sink) => nmeaReader(sink)),
  'a track': table((sink) => gpxReader(sink)),
  SenML: (text) => {
    const reader = senmlReader(
      0,
      () => undefined,
      () => undefined,
    );
    reader.push(text);
    reader.finish();
  },
  'how a table is written': (text) => planDelimited(`a,b\n1,2\n${text}`),
  'a table': (text) => {
    const plan = planDelimited('a,b\n1,2\n');
    if (typeof plan === 'string') throw new Error(plan);
    const reader = delimitedReader(plan, collectTable());
    reader.push(bytes(`${text}\n1,2\n`));
    reader.finish();
  },
  'a line of a board': (text) => boardReader(['a'])(text.slice(0, 1000)),
  'a date': isoSeconds,
  'what is looked for': (text) => findRuns(text, [], []),
  'a typed number': (text) => parseQuantity(text, 'mm'),
};

/** Lines that have made scanners slow: each grows with its number. */
const HOSTILE: Readonly<Record<string, (n: number) => string>> = {
  'letters without a colon': (n) => 'a'.repeat(n),
  'words without a colon': (n) => 'ab '.repeat(n / 3),
  'digits and a letter': (n) => `${'1'.repeat(n)}x`,
  'blanks and a letter': (n) => `${' '.repeat(n)}x`,
  'names without values': (n) => 'a:'.repeat(n / 2),
  'braces that open': (n) => '{'.repeat(n),
  'braces that close': (n) => `{${'}'.repeat(n)}x`,
  'brackets of a heading': (n) => `${'('.repeat(n)}, ${'['.repeat(n)}`,
  'elements in elements': (n) => `<gpx>${'<a>'.repeat(n / 3)}`,
  quotes: (n) => '"'.repeat(n),
  separators: (n) => ','.repeat(n),
  'a sentence without end': (n) => `$GPRMC,${'1,'.repeat(n / 2)}`,
};

/** What takes less than this is too little to compare. */
const TOO_LITTLE_MS = 3;
const SHORT = 10_000;
const TIMES_LONGER = 16;
/** Between what grows with the length and what grows with its square. */
const MOST_GROWTH = TIMES_LONGER ** 1.5;

const took = (work: () => unknown): number => {
  const begun = performance.now();
  work();
  return performance.now() - begun;
};

// Slow expressions are found where they stand, by eslint.config.js; this is for what runs around them.
describe.each(Object.entries(SCANNERS))('time to look at %s grows with length only', (_scanner, scan) => {
  it.each(Object.entries(HOSTILE))('of %s', (_what, make) => {
    const [short, long] = [make(SHORT), make(SHORT * TIMES_LONGER)];
    const growth = () =>
      took(() => scan(long)) /
      Math.max(
        took(() => scan(short)),
        TOO_LITTLE_MS,
      );
    // A machine that is busy with something else only ever makes it look worse: one good look of five tells.
    let least = Infinity;
    for (let i = 0; i < 5 && least > MOST_GROWTH; i++) least = Math.min(least, growth());
    expect(least).toBeLessThan(MOST_GROWTH);
  });
});

describe('values are taken whole or not at all', () => {
  const logOf = (text: string) => {
    const sink = collectTable();
    const reader = pairsLogReader(1, sink);
    reader.push(text);
    reader.finish();
    return sink.found;
  };

  it('of a console log: decimal commas are read, other bases and leftovers are issues', () => {
    expect(logOf('temp: 21,5 C\ntemp: 22,0 C\n').rows).toEqual([[21.5], [22]]);
    expect(logOf('temp: 21.4 C, hum=40%; x: 1e3\n').rows).toEqual([[21.4, 40, 1000]]);
    for (const wrong of ['0x1F', '1,2,3', '12:30:01', '1e999', '21.5.3', '0b11']) {
      const found = logOf(`temp: 1\ntemp: ${wrong}\n`);
      expect([wrong, found.rows]).toEqual([wrong, [[1]]]);
      expect([wrong, found.issues.length]).toEqual([wrong, 1]);
    }
    expect(logOf('temp: nan\ntemp: --\ntemp: 3\n').rows).toEqual([[Number.NaN], [Number.NaN], [3]]);
  });

  it('of JSON lines: infinities are issues, and names of every object are names like others', () => {
    const sink = collectTable();
    const reader = ndjsonReader(sink);
    reader.push(
      '{"t":0,"constructor":1,"__proto__":2,"a":3}\n{"t":1,"a":4}\n{"t":2,"a":1e999}\n{"t":1e999,"a":1}\n',
    );
    reader.finish();
    const names = sink.found.columns.map((c) => c.name);
    expect(names).toContain('constructor');
    expect(sink.found.rows.map((row) => row[names.indexOf('a')])).toEqual([3, 4]);
    expect(sink.found.rows[1]![names.indexOf('constructor')]).toBeNaN();
    expect(sink.found.issues.map((i) => i.code)).toEqual(['not-a-number', 'no-time']);
  });

  it('of a track: only the point’s own, in decimal digits', () => {
    const sink = collectTable();
    const reader = gpxReader(sink);
    const point = (lat: string, inner: string) =>
      `<trkpt lat="${lat}" lon="11"><ele>5</ele><time>2026-05-01T10:00:00Z</time>${inner}</trkpt>`;
    const extension =
      '<extensions><x><ele>99</ele><time>2001-01-01T00:00:00Z</time><trkpt lat="1"/></x></extensions>';
    reader.push(`<gpx>${point('48', extension)}${point('', '')}${point('0x10', '')}${point('48', '')}</gpx>`);
    reader.finish();
    expect(sink.found.rows).toEqual([
      [48, 11, 5],
      [48, 11, 5],
    ]);
    expect(sink.found.issues.map((i) => i.code)).toEqual(['no-position', 'no-position']);
  });

  it('of SenML: words where numbers belong are issues', () => {
    const records: number[] = [];
    const issues: string[] = [];
    const reader = senmlReader(
      0,
      (r) => records.push(r.timeS),
      (i) => issues.push(i.code),
    );
    reader.push(
      '[{"bt":"17","n":"a","v":1},{"bt":1700000000,"n":"a","v":1},{"n":"a","v":1,"t":"1e90"},{"n":7,"v":1}]',
    );
    reader.finish();
    expect(records).toEqual([1_700_000_000]);
    expect(issues).toEqual(['wrong-type', 'wrong-type', 'wrong-type']);
  });

  it('of dates: by the calendar and the clock', () => {
    for (const wrong of [
      '2026-02-31T00:00:00Z',
      '2026-02-29',
      '2026-04-31',
      '2026-05-01T10:00:99Z',
      '2026-05-01T24:00:00Z',
      '2026-05-01T10:00:00+99:99',
    ])
      expect([wrong, isoSeconds(wrong)]).toEqual([wrong, Number.NaN]);
    expect(isoSeconds('2028-02-29T00:00:00Z')).toBe(1_835_395_200);
    // A leap second is the begin of the next.
    expect(isoSeconds('2016-12-31T23:59:60Z')).toBe(isoSeconds('2017-01-01T00:00:00Z'));
  });

  it('of sentences: latitudes and letters that cannot be are issues', () => {
    const sum = (body: string) =>
      [...body]
        .reduce((s, c) => s ^ c.charCodeAt(0), 0)
        .toString(16)
        .toUpperCase()
        .padStart(2, '0');
    const rmc = (position: string) => {
      const body = `GPRMC,100000,A,${position},1.0,2.0,010526,,`;
      return `$${body}*${sum(body)}\n`;
    };
    const sink = collectTable();
    const reader = nmeaReader(sink);
    for (const p of [
      '9959.99,N,01100.00,E',
      '4800.00,E,01100.00,N',
      '4861.00,N,01100.00,E',
      '4800.00,N,18100.00,E',
    ])
      reader.push(rmc(p));
    reader.push(rmc('4800.00,N,01100.00,W'));
    reader.finish();
    expect(sink.found.rows.map((r) => r.slice(0, 2))).toEqual([[48, -11]]);
    expect(sink.found.issues).toHaveLength(4);
  });
});

describe('times', () => {
  it.each([
    ['seconds', 1_700_000_000, 1],
    ['milliseconds', 1_700_000_000_000, 1e-3],
    ['microseconds', 1_700_000_000_000_000, 1e-6],
  ])('of a table that count %s since 1970 are told by their size', (_unit, stamp, scale) => {
    const plan = planDelimited(`time,a\n${stamp},1\n`);
    expect(plan).toMatchObject({ timeScale: scale });
  });

  it('of JSON lines as well, and it is said', () => {
    const said: string[] = [];
    const sink = { ...collectTable(), remark: (text: string) => void said.push(text) };
    const reader = ndjsonReader(sink);
    reader.push('{"t":1700000000000,"a":1}\n{"t":1700000000100,"a":2}\n');
    reader.finish();
    expect(sink.found.times[1]! - sink.found.times[0]!).toBeCloseTo(0.1, 6);
    expect(said).toEqual(['milliseconds in “t”, judged by their size']);
  });

  it('that no calendar has are issues, and those after them stand', () => {
    const sink = collectTable();
    const plan = planDelimited('time [s],a\n1,1\n');
    if (typeof plan === 'string') throw new Error(plan);
    const reader = delimitedReader(plan, sink);
    reader.push(bytes('time [s],a\n1,1\n1e18,2\n3,3\n1e309,4\n'));
    reader.finish();
    expect(sink.found.rows).toEqual([[1], [3]]);
    expect(sink.found.issues.map((i) => i.code)).toEqual(['no-time', 'no-time']);
    const read = mappedReader(
      {
        format: 'separated',
        delimiter: ',',
        decimal: '.',
        time: { field: '1', unit: 's' },
        sequence: null,
        columns: [{ column: 'a', field: '2' }],
      },
      ['a'],
    );
    expect(['1,1', '1e18,2', '1000000000000000000,2', '3,3'].map((l) => read(l).kind)).toEqual([
      'reading',
      'issue',
      'issue',
      'reading',
    ]);
  });
});

describe('names and numbers that go out again', () => {
  it('cannot put a line of their own into a calendar', () => {
    const text = writeCalendar(
      [{ uid: 'a', dueS: 1e9, summary: 'Kiln\rATTACH:x\r\nBEGIN:VEVENT\u0007', description: 'b\n\rc' }],
      1e9,
    );
    expect(text.split('\r\n').filter((l) => /^(ATTACH|BEGIN:VEVENT)/.test(l))).toHaveLength(1);
    for (const control of ['\r', '\u0007']) expect(text.replaceAll('\r\n', '')).not.toContain(control);
  });

  it('cannot be infinite in a formula', () => {
    expect(() => formulaExpression('1e400 * x')).toThrow('is too large');
  });
});
