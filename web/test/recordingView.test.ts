import { describe, expect, it } from 'vitest';
import { compileLine, lanesOf, REASON, runLine } from '@lucky-needle/core/line';
import { thermistorLine } from '@lucky-needle/core/plan';
import { viewRecording, type RawRecording } from '../src/workers/recordingView.ts';

const spec = thermistorLine('p');
const go = async () => {};

function recording(n: number, rate = 10, at = (i: number) => 500 + 300 * Math.sin(i / 5000)): RawRecording {
  return {
    times: Float64Array.from({ length: n }, (_, i) => i / rate),
    columns: new Map([['p', Float64Array.from({ length: n }, (_, i) => Math.round(at(i)))]]),
    sampleRateHz: rate,
  };
}
const whole = { spec, fromS: 0, toS: 1e9, points: 2000 };

describe('viewRecording', () => {
  it('gives few samples as the line gives them, to the last bit', async () => {
    const raw = recording(900);
    const { curves, samples } = await viewRecording(raw, { ...whole, toS: 89.9, taps: [0, 3] }, go);
    const line = compileLine(spec, { sampleRateHz: 10 });
    const taps = runLine(line, lanesOf(raw.times, [raw.columns.get('p')!]), [0, 3]);
    expect(samples).toBe(900);
    taps.forEach((tap, i) => expect(curves[i]!.values).toEqual(tap.lanes[0]!.values));
    expect(curves[0]!.times).toEqual(raw.times);
  });

  it('thins many, and loses neither the highest nor the lowest', async () => {
    const raw = recording(600_000);
    raw.columns.get('p')![123_456] = 1000;
    raw.columns.get('p')![400_000] = 20;
    const { curves } = await viewRecording(raw, { ...whole, toS: 59_999.9, taps: [0] }, go);
    const [curve] = curves;
    expect(curve!.values.length).toBeLessThanOrEqual(2000);
    expect(Math.max(...curve!.values)).toBe(1000);
    expect(Math.min(...curve!.values)).toBe(20);
    expect(curve!.times[curve!.values.indexOf(1000)]).toBeCloseTo(12_345.6, 6);
    expect(curve!.times).toEqual(curve!.times.toSorted());
  });

  it('lets filters forget their start before the stretch that is looked at', async () => {
    const raw = recording(60_000);
    const late = await viewRecording(raw, { ...whole, fromS: 5000, toS: 5010, taps: [5] }, go);
    const line = compileLine(spec, { sampleRateHz: 10 });
    const [all] = runLine(line, lanesOf(raw.times, [raw.columns.get('p')!]), [5]);
    late.curves[0]!.values.forEach((v, i) => expect(v).toBeCloseTo(all!.lanes[0]!.values[50_000 + i]!, 9));
  });

  it('counts bad samples at the stage where they arise, and draws a gap', async () => {
    const raw = recording(2000);
    raw.columns.get('p')!.fill(1023, 500, 700);
    const { faults, curves } = await viewRecording(raw, { ...whole, toS: 199.9, taps: [1] }, go);
    expect(faults[1]!.arising).toEqual([{ reason: REASON.saturatedHigh, count: 200 }]);
    expect(faults.slice(2).every((f) => f.arising.length === 0)).toBe(true);
    expect([...curves[0]!.values].some(Number.isNaN)).toBe(true);
  });

  it('tells how far it is, and ends where the pause says so', async () => {
    const raw = recording(1_000_000);
    const shares: number[] = [];
    await viewRecording(
      raw,
      { ...whole, toS: 99_999.9, taps: [5] },
      async (share) => void shares.push(share),
    );
    expect(shares.length).toBeGreaterThan(3);
    expect(shares).toEqual(shares.toSorted());
    expect(shares.at(-1)).toBe(1);
    let asked = 0;
    const stopped = viewRecording(raw, { ...whole, toS: 99_999.9, taps: [5] }, async () => {
      if (++asked === 2) throw new Error('no longer wanted');
    });
    await expect(stopped).rejects.toThrow('no longer wanted');
    expect(asked).toBe(2);
  });

  it('names a column that the recording has not', async () => {
    const other = { ...recording(10), columns: new Map([['q', new Float64Array(10)]]) };
    await expect(viewRecording(other, { ...whole, taps: [0] }, go)).rejects.toThrow(
      'The recording has no column "p". It has q.',
    );
  });
});
