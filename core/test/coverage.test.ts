import { writeFileSync } from 'node:fs';
import { afterAll, describe, expect, it } from 'vitest';
import { FITS, GUIDED_FITS } from '../src/calibrate/index.ts';
import { FIT_CASES } from './support/intervals/fitCases.ts';
import { fitCoverage } from './support/intervals/fitCoverage.ts';
import { GUIDED_CASES, guidedCoverage } from './support/intervals/guidedCases.ts';

// A slice in every run, a smaller one in a quick run; `npm run coverage` takes a thousand seeds and writes the table of docs/formulas.md.
const TRIALS = Number(process.env['COVERAGE_TRIALS'] ?? 60);
/** How far a share may be off by chance: three standard deviations of a binomial share. */
const chance = (share: number, judged = TRIALS) => 3 * Math.sqrt((share * (1 - share)) / judged);
const percent = (share: number | null) => (share === null ? '–' : `${(100 * share).toFixed(1)} %`);

const rows: { fits: string[][]; guided: string[][] } = { fits: [], guided: [] };
afterAll(() => {
  const to = process.env['COVERAGE_ROWS'];
  if (to) writeFileSync(to, JSON.stringify(rows));
});

describe('the intervals of every fit', () => {
  it('are all looked at', () => {
    expect(FIT_CASES.map((c) => c.fit).toSorted()).toEqual(FITS.map((f) => f.id).toSorted());
    expect(new Set(GUIDED_CASES.map((c) => c.fit))).toEqual(new Set(GUIDED_FITS.map((f) => f.id)));
  });

  it.each(FIT_CASES)('$fit: constants and band hold the truth', (fitCase) => {
    const kind = FITS.find((f) => f.id === fitCase.fit)!;
    const plain = fitCoverage(fitCase, TRIALS, false);
    const bent = fitCoverage(fitCase, TRIALS, true);
    rows.fits.push([
      kind.title,
      String(fitCase.at.length),
      percent(plain.constants),
      percent(plain.band),
      plain.width.toFixed(2),
      percent(bent.band),
      percent(bent.shown),
    ]);
    if (plain.constants !== null) expect(plain.constants).toBeGreaterThanOrEqual(0.95 - chance(0.95));
    expect(plain.band).toBeGreaterThanOrEqual(0.95 - chance(0.95));
    expect(plain.band).toBeLessThanOrEqual(Math.min(1, 0.97 + chance(0.97)));
    expect(plain.width).toBeLessThan(1.4 + 0.5 / Math.sqrt(TRIALS));
    // One constant takes the sensor's shape for granted; what little the points tell of a bend hardly makes up for it.
    const least = kind.parameterCount > 1 ? 0.92 : 0.9;
    expect(bent.band).toBeGreaterThanOrEqual(least - chance(least));
    // What a maker is shown goes by the part as well, and is not known while nobody says what that leaves.
    expect(bent.shown).toBeGreaterThanOrEqual(0.95 - chance(0.95));
  });

  it.each(GUIDED_CASES)('$fit, $when: constants hold the truth', (guidedCase) => {
    const share = guidedCoverage(guidedCase, TRIALS);
    const judged = TRIALS * Object.keys(guidedCase.truths).length;
    rows.guided.push([
      GUIDED_FITS.find((f) => f.id === guidedCase.fit)!.title,
      guidedCase.when,
      percent(share),
    ]);
    expect(share).toBeGreaterThanOrEqual(0.94 - chance(0.94, judged));
    expect(share).toBeLessThanOrEqual(Math.min(1, 0.985 + chance(0.985, judged)));
  });
});
