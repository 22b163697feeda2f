import { describe, expect, it } from 'vitest';
import { absorbanceAt, judgeLamps, lampAtRest, lampsOf, withLampLight } from '../src/calibrate/index.ts';
import { TEMPLATES } from '../src/plan/index.ts';

const { channels } = TEMPLATES.find((t) => t.id === 'absorbance')!.make();
const lamps = lampsOf(channels);
const all = (counts: number) => lamps.map(() => counts);

describe('what lamps give', () => {
  it('is looked at lamp by lamp, whatever else goes on from one', () => {
    expect(lamps.map((c) => c.id)).toEqual(['l470', 'l525', 'l560', 'l590', 'l625']);
    expect(lampsOf(TEMPLATES.find((t) => t.id === 'gas-watch')!.make().channels)).toEqual([]);
  });

  it('is a dark only where no lamp is lit, and a blank only where all are and none is at its end', () => {
    expect(judgeLamps(lamps, all(150))).toMatchObject({
      notDark: null,
      notBlank: 'Not enough light for a blank: 470 nm gives 150 counts.',
    });
    expect(judgeLamps(lamps, all(41_000))).toMatchObject({
      notDark: 'Not dark: 470 nm gives 41000 counts.',
      notBlank: null,
    });
    const one = judgeLamps(lamps, [150, 41_000, 150, 150, 150]);
    expect(one.notDark).toMatch(/^Not dark: 525 nm/);
    expect(one.notBlank).toMatch(/^Not enough light for a blank: 470 nm/);
    const full = judgeLamps(lamps, [41_000, 41_000, 65_535, 41_000, 41_000]);
    expect(full.notBlank).toBe('560 nm saturates the detector.');
    expect(full.trouble).toEqual([null, null, 'saturated', null, null]);
    // Little light is told, but it is the maker's to take.
    const weak = judgeLamps(lamps, [41_000, 3000, 41_000, 41_000, 41_000]);
    expect([weak.notBlank, weak.trouble[1]]).toEqual([null, 'starved']);
  });

  it('can be kept as dark again whatever nonsense was kept before', () => {
    for (const dark of [0, 1, 60_000]) {
      const wrong = lampsOf(withLampLight(channels, 'dark', new Map([['l470', dark]])));
      expect(judgeLamps(wrong, all(150)).notDark).toBe(null);
    }
  });

  it('goes into every line that reads the lamp, and into no other', () => {
    const changed = withLampLight(channels, 'blank', new Map([['l525', 40_123.456_78]]));
    const blanks = changed.map((c) => c.line.stages.find((s) => s.kind === 'absorbance')!.params['blank']);
    expect(blanks).toEqual(channels.map((c) => (['l525', 'strength'].includes(c.id) ? 40_123.5 : 42_000)));
    const at = (id: string, counts: number) =>
      absorbanceAt(
        changed.find((c) => c.id === id)!,
        counts,
        20,
      );
    expect(at('l525', 40_123.5)!.value).toBeCloseTo(0, 12);
    const tenth = at('l470', 140 + 4186)!;
    expect(tenth.value).toBeCloseTo(1, 12);
    // Twice 20 counts of 4186, as a logarithm.
    expect(tenth.uncertainty).toBeCloseTo(40 / 4186 / Math.LN10, 6);
    expect([at('l470', 65_535), at('l470', 140)]).toEqual([null, null]);
  });

  it('stands still within a thousandth of absorbance, over ten readings at the least', () => {
    const slow = lampAtRest(lamps[0]!, 42_000, 0.5);
    expect([slow.windowS, lampAtRest(lamps[0]!, 42_000, 100).windowS]).toEqual([20, 3]);
    expect(Math.log10(42_000 / (42_000 - slow.drift))).toBeLessThan(1e-3);
  });
});
