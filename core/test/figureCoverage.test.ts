import { writeFileSync } from 'node:fs';
import { afterAll, describe, expect, it } from 'vitest';
import { figuresHeld } from './support/intervals/figuresHeld.ts';
import { FIGURE_TRIALS } from './support/intervals/figureTrials.ts';
import { FAMILIES } from '../src/simulate/index.ts';
import { UNITS } from '../src/units/index.ts';

// Stated 95 % intervals of figures against what simulated worlds hide. Lines are made of the true constants: what is left is
// what a figure itself states. A slice in every run; `npm run coverage -- --figures` takes two thousand worlds that
// nothing was chosen by, and writes the table of docs/formulas.md.
const ROWS = process.env['FIGURE_ROWS'];
const SEEDS = Number(process.env['FIGURE_SEEDS'] ?? 150);
const FROM = Number(process.env['FIGURE_FROM'] ?? 7000);

/** How far a share of a slice may be off by chance: three standard deviations; of the whole it may not. */
const chance = (share: number) => (ROWS ? 0 : 3 * Math.sqrt((share * (1 - share)) / SEEDS));
/** Three deviations of what 95 of 100 are off by: of a slice an interval that is too wide tells itself by it. */
const leastOff = ROWS ? 0.8 : 0.8 - 3 / Math.sqrt(SEEDS) / 2.5;

const rows: string[][] = [];
afterAll(() => {
  if (ROWS) writeFileSync(ROWS, JSON.stringify(rows));
});

describe('stated 95 % intervals hold in 93 to 97 of 100 worlds', () => {
  it.each(Object.entries(FIGURE_TRIALS))('%s', (name, trial) => {
    for (const [figure, held] of Object.entries(figuresHeld(trial, SEEDS, FROM))) {
      const { share, off95, half, unit, isCount } = held;
      const printed = isCount ? 'a count' : `±${half.toPrecision(2)} ${UNITS[unit].symbol}`;
      rows.push([String(trial.family), name, figure, printed, `${(100 * share).toFixed(1)} %`]);
      if (isCount) expect([figure, share]).toEqual([figure, 1]);
      else {
        expect(share, figure).toBeGreaterThanOrEqual(0.93 - chance(0.93));
        expect(share, figure).toBeLessThanOrEqual(0.97 + chance(0.97));
        expect(off95, figure).toBeGreaterThan(leastOff);
      }
    }
  });

  it('looks into all fourteen families', () => {
    expect(new Set(Object.values(FIGURE_TRIALS).map(({ family }) => family))).toEqual(
      new Set(FAMILIES.map(({ family }) => family)),
    );
  });
});
