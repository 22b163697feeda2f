import { describe, expect, it } from 'vitest';
import { collectTable, detectFile, mappedReader, nmeaChecksum, nmeaReader } from '../src/formats/index.ts';
import type { LineMapping } from '../src/model/lineMapping.ts';

const line = (body: string) => `$${body}*${nmeaChecksum(body)}\r\n`;
const at = (s: number) =>
  `${String(Math.floor(s / 3600)).padStart(2, '0')}${String(Math.floor(s / 60) % 60).padStart(2, '0')}${(s % 60).toFixed(2).padStart(5, '0')}`;
const rmc = (s: number, { talker = 'GP', date = '281126', knots = 6 } = {}) =>
  line(`${talker}RMC,${at(s)},A,5004.200,N,00821.500,E,${knots},87.0,${date},,,A`);
const gga = (s: number, { talker = 'GP', satellites = 9 } = {}) =>
  line(
    `${talker}GGA,${at(s)},5004.200,N,00821.500,E,1,${String(satellites).padStart(2, '0')},0.9,112.0,M,47.9,M,,`,
  );
const vtg = (knots: number) => line(`GPVTG,91.5,T,,M,${knots},N,${(knots * 1.852).toFixed(2)},K,A`);

function read(text: string) {
  const remarks: string[] = [];
  const sink = { ...collectTable(), remark: (t: string) => void remarks.push(t) };
  const reader = nmeaReader(sink);
  reader.push(text);
  reader.finish();
  const { times, rows, issues, columns } = sink.found;
  const column = (name: string) => rows.map((r) => r[columns.findIndex((c) => c.name === name)]);
  return { times, column, issues: issues.map((i) => i.code), remarks, columns: columns.map((c) => c.name) };
}

const DAY = Date.UTC(2026, 10, 28) / 1000;

describe('position sentences of any receiver', () => {
  it('date the fixes that came before the first date, back across midnight', () => {
    const { times, remarks } = read(gga(86399) + gga(0) + gga(1) + rmc(2) + gga(2));
    expect(times).toEqual([DAY - 1, DAY, DAY + 1, DAY + 2]);
    expect(remarks).toEqual(['date first given in line 4, counted back to the first fix']);
  });

  it('take seconds of the day where nothing tells a date, and say so', () => {
    const { times, remarks } = read(gga(100) + gga(101) + gga(102));
    expect(times).toEqual([100, 101, 102]);
    expect(remarks).toEqual(['no date found: times are seconds of the day']);
  });

  it('take the date of a sentence that holds nothing else', () => {
    expect(read(gga(5) + line('GPZDA,000005.00,28,11,2026,00,00') + gga(6)).times).toEqual([
      DAY + 5,
      DAY + 6,
    ]);
  });

  it('read speed and course that come in a sentence of their own, before or behind the fix', () => {
    const behind = read(gga(1) + vtg(10) + gga(2) + vtg(12));
    behind.column('speed').forEach((v, i) => expect(v).toBeCloseTo(((10 + 2 * i) * 1852) / 3600, 9));
    expect(behind.column('course')).toEqual([91.5, 91.5]);
    expect(read(vtg(10) + gga(1)).column('speed')[0]).toBeCloseTo((10 * 1852) / 3600, 9);
    // What stands beside the position comes first.
    expect(read(rmc(1, { knots: 6 }) + vtg(12)).column('speed')[0]).toBeCloseTo((6 * 1852) / 3600, 9);
  });

  it('keep the satellites of several systems apart, and make one row of an instant', () => {
    const second = (s: number) =>
      gga(s, { satellites: 9 }) + gga(s, { talker: 'GL', satellites: 4 }) + rmc(s) + rmc(s, { talker: 'GL' });
    const { times, column, columns } = read(second(1) + second(2));
    expect(times).toEqual([DAY + 1, DAY + 2]);
    expect(column('satellites')).toEqual([9, 9]);
    expect(columns.at(-1)).toBe('satellites GL');
    expect(column('satellites GL')).toEqual([4, 4]);
  });

  it('join sentences of one fix that are stamped apart, and not those of several fixes a second', () => {
    const seconds = [1, 2, 3, 4];
    const apart = read(seconds.map((s) => rmc(s) + gga(s + 0.2)).join(''));
    expect(apart.times.slice(1)).toHaveLength(4);
    expect(apart.column('satellites').slice(2)).toEqual([9, 9, 9]);
    const fast = read([1, 1.2, 1.4, 1.6].map((s) => gga(s) + (s === 1 ? rmc(s) : '')).join(''));
    expect(fast.times).toHaveLength(4);
    expect(fast.column('speed').map(Number.isNaN)).toEqual([false, true, true, true]);
  });

  it('pass over a few bytes that are no text, each counted', () => {
    const bytes = (...b: number[]) => new TextDecoder().decode(Uint8Array.from(b));
    const text =
      rmc(1) +
      bytes(0xb5, 0x62, 0, 1, 2) +
      rmc(2) +
      bytes(0xff, 0x24, 7, 10) +
      rmc(3) +
      'half a sent$' +
      rmc(4);
    const { times, issues } = read(text);
    expect(times).toEqual([1, 2, 3, 4].map((s) => DAY + s));
    expect(issues).toEqual(['other-bytes', 'not-a-sentence', 'other-bytes']);
    expect(detectFile(new TextEncoder().encode(text))).toMatchObject({ format: 'sentences' });
  });

  it('go on when the receiver sets its clock back, with nothing lost', () => {
    const seconds = [100, 101, 102, 90, 91, 92];
    const { times, issues } = read(seconds.map((s) => rmc(s) + gga(s)).join(''));
    expect(times).toEqual([100, 101, 102, 103, 104, 105].map((s) => DAY + s));
    expect(issues).toEqual(['clock-set']);
  });

  it('live, begin with the first fix that has a date', () => {
    const mapping: LineMapping = {
      format: 'sentences',
      delimiter: ',',
      decimal: '.',
      time: null,
      sequence: null,
      columns: [{ column: 'speed', field: 'speed' }],
    };
    const reader = mappedReader(mapping, ['speed']);
    const found = [gga(5), rmc(6), gga(6), rmc(7), gga(7), rmc(8)]
      .map((l) => reader(l.trim()))
      .filter((r) => r.kind === 'reading')
      .map((r) => r.timeS);
    expect(found).toEqual([DAY + 6, DAY + 7]);
  });
});
