import fc from 'fast-check';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import {
  boardReader,
  csvHeader,
  csvHeading,
  csvRow,
  decodeSampleBlock,
  encodeSampleBlock,
  lineSplitter,
  planCsvImport,
  readCsvRow,
  reduceForPlot,
  type CsvPlan,
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
    expect(() => decodeSampleBlock(new ArrayBuffer(16))).toThrow(/no sample block/);
    expect(() => decodeSampleBlock(new ArrayBuffer(2))).toThrow(/no sample block/);
    expect(() => decodeSampleBlock(whole.slice(0, whole.byteLength - 8))).toThrow(/bytes came as/);
  });
});

describe('recording as CSV', () => {
  const columns = [
    { name: 'p1', unit: 'count' as const, raw: true },
    { name: 'Probe 1, door side', unit: 'degC' as const, raw: false },
  ];
  const fields = (line: string) => Papa.parse<string[]>(line).data[0]!;

  it('comes back to the same samples', () => {
    const plan = planCsvImport(fields(csvHeader(columns))) as CsvPlan;
    expect(plan.columns).toEqual([{ at: 1, name: 'p1', unit: 'count' }]);
    expect(plan.passedOver).toEqual(['Probe 1, door side [degC]']);
    fc.assert(
      fc.property(
        fc.double({ noNaN: true, noDefaultInfinity: true }),
        fc.double({ noDefaultInfinity: true }),
        (time, value) => {
          const row = readCsvRow(plan, fields(csvRow(time, [value, 20.5])), 2, -Infinity);
          if (!row.ok) throw new Error(row.issue.text);
          // Zero has one sign in text.
          expect(row.timeS).toBe(time + 0);
          expect(row.values[0]).toBe(value + 0);
        },
      ),
    );
  });

  it('keeps names from turning into spreadsheet formulas, and takes them back', () => {
    const heading = csvHeading({ name: '=SUM(A1)', unit: 'count', raw: true });
    expect(heading).toBe("'=SUM(A1) raw [count]");
    expect((planCsvImport(['time [s]', heading]) as CsvPlan).columns[0]!.name).toBe('=SUM(A1)');
  });

  it.each([
    [['a', 'b'], /no column "time \[s\]"/],
    [['time [s]', 'Probe [degC]'], /No column is marked as raw/],
    [['time [s]', 'p1 raw [furlong]'], /unit "furlong", which is not known/],
  ])('refuses headings %j and says what to write', (headings, message) => {
    expect(planCsvImport(headings)).toMatch(message);
  });

  it.each([
    [['1.5', 'x'], 'not-a-number'],
    [['', '5'], 'no-time'],
    [['0.5', '5'], 'time-backwards'],
    [['1.5'], 'too-few-fields'],
  ])('numbers a bad row %j as %s', (row, code) => {
    const plan = planCsvImport(['time [s]', 'p1 raw [count]']) as CsvPlan;
    expect(readCsvRow(plan, row, 7, 1)).toMatchObject({ ok: false, issue: { code, row: 7 } });
  });

  it('reads an empty field as a missing sample', () => {
    const plan = planCsvImport(['time [s]', 'p1 raw [count]']) as CsvPlan;
    expect(readCsvRow(plan, ['2', ''], 3, 1)).toEqual({ ok: true, timeS: 2, values: [Number.NaN] });
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
