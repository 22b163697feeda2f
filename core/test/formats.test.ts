import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  boardReader,
  csvHeader,
  csvHeading,
  csvRow,
  decodeSampleBlock,
  collectTable,
  delimitedReader,
  detectFile,
  encodeSampleBlock,
  lineSplitter,
  matchColumns,
  planDelimited,
  reduceForPlot,
  scanNumberBytes,
  scanNumbers,
  type CsvColumn,
} from '../src/formats/index.ts';

describe('boardReader', () => {
  const read = () => boardReader(['p1', 'p2']);

  it.each([
    ['commas', '1500,573,402'],
    ['semicolons', '1500;573;402'],
    ['tabs', '1500\t573\t402'],
    ['spaces', '1500 573 402'],
    ['pairs with colons', 'ms:1500 p2:402 p1:573'],
    ['pairs with equals signs', 'p1=573, p2=402, ms=1500'],
    ['a carriage return', '1500,573,402\r'],
  ])('reads %s', (_what, text) => {
    expect(read()(text)).toEqual({ kind: 'reading', timeS: 1.5, values: [573, 402] });
  });

  it('follows the order of a header line', () => {
    const r = read();
    expect(r('p2,ms,p1')).toEqual({ kind: 'header', columns: ['p2', 'ms', 'p1'] });
    expect(r('402,1500,573')).toEqual({ kind: 'reading', timeS: 1.5, values: [573, 402] });
  });

  it.each([
    ['', 'empty'],
    ['   ', 'empty'],
    ['1500,573', 'wrong-columns'],
    ['1500,573,402,9', 'wrong-columns'],
    ['1500,573,4O2', 'not-a-number'],
    ['1500,,402', 'not-a-number'],
    ['1500,,573,402', 'wrong-columns'],
    ['1500,0x10,402', 'not-a-number'],
    ['??,573,402', 'no-time'],
    ['p1:573 p2:402', 'no-time'],
    ['ms:1500 p1:573', 'wrong-columns'],
    ['x,y,z', 'wrong-columns'],
    ['9'.repeat(2000), 'too-long'],
    ['\u0000\u0007\ufffd', 'wrong-columns'],
  ])('reports %j as %s, never a guess', (text, code) => {
    expect(read()(text)).toMatchObject({ kind: 'issue', code });
  });

  it('survives any line at all', () => {
    const r = read();
    fc.assert(
      fc.property(fc.string({ maxLength: 80 }), (text) =>
        ['reading', 'issue', 'header'].includes(r(text).kind),
      ),
    );
  });
});

describe('lineSplitter', () => {
  it('gives the same lines however the stream is cut', () => {
    fc.assert(
      fc.property(
        fc.array(fc.stringMatching(/^[a-z0-9,]{0,12}$/), { maxLength: 20 }),
        fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 1 }),
        (lines, cuts) => {
          const text = lines.map((l) => `${l}\r\n`).join('');
          const got: string[] = [];
          const push = lineSplitter((l) => got.push(l));
          for (let at = 0, i = 0; at < text.length; i++) {
            const length = cuts[i % cuts.length]!;
            push(text.slice(at, at + length));
            at += length;
          }
          expect(got).toEqual(lines);
        },
      ),
    );
  });

  it('gives out a flood without line ends instead of hoarding it', () => {
    const got: string[] = [];
    const push = lineSplitter((l) => got.push(l), 100);
    for (let i = 0; i < 50; i++) push('x'.repeat(10));
    expect(got.length).toBeGreaterThan(3);
  });
});

describe('sample block', () => {
  it('round-trips any numbers and names, bit for bit', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.double(), fc.double()), { maxLength: 50 }),
        fc.string(),
        (rows, name) => {
          const times = Float64Array.from(rows, (r) => r[0]);
          const values = Float64Array.from(rows, (r) => r[1]);
          const back = decodeSampleBlock(
            encodeSampleBlock({
              header: { columns: [{ name, unit: 'count' }], count: rows.length, reducedBy: 1 },
              times,
              columns: [values],
            }),
          );
          expect(back.header.columns[0]!.name).toBe(name);
          expect(back.times).toEqual(times);
          expect(back.columns[0]).toEqual(values);
        },
      ),
    );
  });

  it('refuses what is no block or cut short', () => {
    const whole = encodeSampleBlock({
      header: { columns: [], count: 3, reducedBy: 1 },
      times: new Float64Array(3),
      columns: [],
    });
    expect(() => decodeSampleBlock(new ArrayBuffer(16))).toThrow(/samples received are not valid/);
    expect(() => decodeSampleBlock(new ArrayBuffer(2))).toThrow(/samples received are not valid/);
    expect(() => decodeSampleBlock(whole.slice(0, whole.byteLength - 8))).toThrow(/bytes received/);
  });
});

describe('recording as CSV', () => {
  const columns = [
    { name: 'p1', unit: 'count' as const, raw: true },
    { name: 'Probe 1, door side', unit: 'degC' as const, raw: false },
  ];
  const readBack = (text: string) => {
    const plan = planDelimited(text);
    if (typeof plan === 'string') throw new Error(plan);
    const sink = collectTable();
    const reader = delimitedReader(plan, sink);
    // In two pieces, cut anywhere.
    const bytes = new TextEncoder().encode(text);
    reader.push(bytes.subarray(0, 37));
    reader.push(bytes.subarray(37));
    reader.finish();
    return sink.found;
  };

  it('comes back to the same samples, straight from the text or field by field', () => {
    const plain: CsvColumn[] = [
      { name: 'p1', unit: 'count', raw: true },
      { name: 'p2', unit: 'degC', raw: false },
    ];
    for (const named of [columns, plain])
      fc.assert(
        fc.property(
          // Times that a calendar has; any value at all.
          fc.double({ noNaN: true, min: -6e10, max: 2.5e11 }),
          fc.double({ noDefaultInfinity: true }),
          (time, value) => {
            const {
              times,
              rows,
              columns: found,
            } = readBack(`${csvHeader(named)}\r\n-6e10,1,2\r\n${csvRow(time, [value, 20.5])}\r\n`);
            expect(found[0]).toEqual({ name: 'p1 raw', unit: 'count' });
            // Zero has one sign in text.
            expect(times[1]).toBe(time + 0);
            expect(rows[1]).toEqual([value + 0, 20.5]);
          },
        ),
      );
  });

  it('keeps names from turning into spreadsheet formulas, and takes them back', () => {
    const heading = csvHeading({ name: '=SUM(A1)', unit: 'count', raw: true });
    expect(heading).toBe("'=SUM(A1) raw [count]");
    expect(readBack(`time [s],${heading}\n0,1\n1,2\n`).columns[0]!.name).toBe('=SUM(A1) raw');
  });

  it.each([
    ['1.5,x', 'not-a-number'],
    [',5', 'no-time'],
    ['0.5,5', 'time-backwards'],
    ['1.5', 'too-few-fields'],
    ['1.5,5,6', 'too-many-fields'],
  ])('numbers a bad row "%s" as %s', (row, code) => {
    const { issues, rows } = readBack(`time [s],p1 raw [count]\n0,1\n1,2\n${row}\n2,3\n`);
    expect(issues).toMatchObject([{ code, row: 4 }]);
    expect(rows).toEqual([[1], [2], [3]]);
  });

  it('takes an empty field for a missing sample', () => {
    expect(readBack('time [s],p1 raw [count]\n0,1\n1,\n').rows).toEqual([[1], [Number.NaN]]);
  });

  it('belongs to the raw columns that it names', () => {
    const named = (...names: string[]) => names.map((name) => ({ name, unit: null }));
    expect(matchColumns(named('p1 raw', 'p2 raw', 'Probe 1'), ['p1', 'p2', 'p3'])).toEqual([
      'p1',
      'p2',
      null,
    ]);
    expect(matchColumns(named('P-2', 'humidity'), ['p1', 'p2'])).toEqual(['p2', null]);
    expect(matchColumns(named('whatever'), ['p1'])).toEqual(['p1']);
    expect(matchColumns(named('whatever', 'else'), ['p1'])).toEqual([null, null]);
    expect(matchColumns(named('p1', 'P1'), ['p1'])).toEqual(['p1', null]);
  });
});

const ofText = (text: string, decimal = '.', delimiter = ',') => {
  const out = new Float64Array(8);
  const n = scanNumbers(text, 0, text.length, delimiter.charCodeAt(0), decimal.charCodeAt(0), out);
  return n < 0 ? null : [...out.subarray(0, n)];
};
const ofBytes = (text: string, decimal = '.', delimiter = ',') => {
  const out = new Float64Array(Math.min(8, text.split(delimiter).length));
  const bytes = new TextEncoder().encode(`${text}\r\n`);
  const end = scanNumberBytes(bytes, 0, delimiter.charCodeAt(0), decimal.charCodeAt(0), out);
  if (end >= 0) expect(end).toBe(bytes.length - 2);
  return end < 0 ? null : [...out];
};

describe.each([
  ['text', ofText],
  ['bytes', ofBytes],
])('numbers scanned from %s', (_, scan) => {
  it('reads what Number reads, to the last bit, or leaves it', () => {
    fc.assert(
      fc.property(fc.array(fc.double(), { minLength: 1, maxLength: 8 }), (values) => {
        const scanned = scan(values.map(String).join(','));
        if (scanned) expect(scanned).toEqual(values.map((v) => v + 0));
      }),
    );
    for (const text of ['0.1', '-0.3', '123456.789', '9007199254740991', '0.000123', '+5', ' 7 ', '5.', '.5'])
      expect(scan(text)).toEqual([Number(text)]);
    expect(scan('1,5;2', ',', ';')).toEqual([1.5, 2]);
  });

  it('knows empty fields, and leaves what is no plain number', () => {
    expect(scan('1,,3,')).toEqual([1, Number.NaN, 3, Number.NaN]);
    expect(scan('')).toEqual([Number.NaN]);
    expect(scan('1e5,0.1234567890123456789, 90071992547409931 ,7')).toEqual([
      Number('1e5'),
      Number('0.1234567890123456789'),
      Number('90071992547409931'),
      7,
    ]);
    for (const text of ['1e', 'x', '1,"2"', '-', '+', '1.2.3', '.', '1 2', '1\u0661', '1,2,3,4,5,6,7,8,9'])
      expect(scan(text)).toBeNull();
  });

  it('rounds numbers of any length as Number does', () => {
    const digits = fc.stringMatching(/^[0-9]{1,24}$/);
    fc.assert(
      fc.property(digits, fc.nat(24), fc.boolean(), (all, point, negative) => {
        const at = Math.min(point, all.length);
        const text = `${negative ? '-' : ''}${all.slice(0, at)}.${all.slice(at)}`;
        expect(scan(text)).toEqual([Number(text)]);
      }),
      { numRuns: 3000 },
    );
    // Halfway between two doubles, and the least bit beside it.
    for (const text of [
      '4503599627370496.5',
      '4503599627370497.5',
      '4503599627.3704965',
      '0.500000000000000055',
      '0.500000000000000056',
      '1.00000000000000011102230246251565',
      '9007199254740993',
      '900719.92547409931',
    ])
      expect(scan(text)).toEqual([Number(text)]);
  });
});

describe('detectFile', () => {
  const of = (text: string) => {
    const found = detectFile(new TextEncoder().encode(text));
    return typeof found === 'string' ? found : found.format;
  };
  it.each([
    ['time,a\n0,1\n1,2\n', 'delimited'],
    ['t=1 a=2\nt=2 a=3\n', 'log'],
    ['{"t":1,"a":2}\n{"t":2,"a":3}\n', 'json-lines'],
    ['[{"n":"a","u":"Cel","v":1}]', 'senml'],
    ['$GPRMC,000000,A*00\n$GPGGA,000000*00\n', 'sentences'],
    ['<?xml version="1.0"?><gpx version="1.1"></gpx>', 'track'],
    ['RIFF....WAVE', 'wav'],
    ['PK\u0003\u0004', 'package'],
    ['', 'The file is empty.'],
    ['<?xml version="1.0"?><kml/>', 'The file is XML, but not a GPX track.'],
    ['abc\u0000def', 'This is a binary file. Use text, GPX, WAV, SenML or a data package.'],
  ])('%j: %s', (text, format) => {
    expect(of(text)).toBe(format);
  });
});

describe('reduceForPlot', () => {
  const times = Float64Array.from({ length: 10_000 }, (_, i) => i);

  it('leaves short columns alone', () => {
    const values = Float64Array.from([1, 2, 3]);
    expect(reduceForPlot(times.subarray(0, 3), values, 100)).toEqual({
      times: times.subarray(0, 3),
      values,
      reducedBy: 1,
    });
  });

  it('never loses a single high or low sample, and keeps time in order', () => {
    const values = new Float64Array(10_000);
    values[6123] = 9;
    values[6124] = -9;
    const reduced = reduceForPlot(times, values, 500);
    expect(reduced.values.length).toBeLessThanOrEqual(502);
    expect(Math.max(...reduced.values)).toBe(9);
    expect(Math.min(...reduced.values)).toBe(-9);
    expect(reduced.times.every((t, i) => i === 0 || t > reduced.times[i - 1]!)).toBe(true);
  });

  it('draws a stretch of bad samples as a gap', () => {
    const values = Float64Array.from(times, (t) => (t > 3000 && t < 6000 ? Number.NaN : 1));
    expect(reduceForPlot(times, values, 200).values.some(Number.isNaN)).toBe(true);
  });
});
