import { decimalsFor, printNumber, printSignificant, UNITS, type UnitId } from '../units/index.ts';
import type { StudyFact, StudyPlotAxis, StudyPlotSeries, StudyResult } from './kind.ts';

/** A value with its expanded uncertainty and unit: "0.08 ±0.06 s". */
export function withWorth(value: number, worth: number, unit: UnitId, plus = true): string {
  const symbol = UNITS[unit].symbol;
  if (!Number.isFinite(worth) || worth <= 0)
    return `${printSignificant(value, 3)} ${symbol}, uncertainty unknown`.trim();
  const decimals = decimalsFor(worth);
  return `${printNumber(value, decimals, plus)} ±${printNumber(worth, decimals)} ${symbol}`.trim();
}

/** A size with its unit. */
export const sized = (value: number, unit: UnitId, digits = 2): string =>
  `${printSignificant(value, digits)} ${UNITS[unit].symbol}`.trim();

/** How long it was watched, in whole minutes where those are many. */
export const watchedFor = (minutes: number): string => `${printNumber(minutes, minutes < 10 ? 1 : 0)} min`;

export const fact = (title: string, text: string): StudyFact => ({ title, text });

export const axis = (
  label: string,
  unit: string,
  scale: StudyPlotAxis['scale'] = 'linear',
): StudyPlotAxis => ({
  label,
  unit,
  scale,
});

/** An axis of things that have names, numbered from 1 on. */
export const axisOfNames = (label: string, names: string[]): StudyPlotAxis => ({
  ...axis(label, '', 'whole'),
  names,
});

/** A level across a plot. */
export const across = (
  label: string,
  from: number,
  to: number,
  level: number,
  style: StudyPlotSeries['style'],
): StudyPlotSeries => ({ label, x: [from, to], y: [level, level], style });

/** Nothing can be said yet, and what would help. */
export const notShown = (
  sentence: string,
  next: string,
  facts: readonly StudyFact[] = [],
  plots: StudyResult['plots'] = [],
): StudyResult => ({ state: 'not shown', sentence, next, facts, plots });

/** All that was asked is shown. */
export const passes = (
  sentence: string,
  facts: readonly StudyFact[],
  plots: StudyResult['plots'],
): StudyResult => ({ state: 'pass', sentence, next: '', facts, plots });

/** What was found, where the brief says nothing of what is allowed. */
export const unasked = (
  said: string,
  facts: readonly StudyFact[],
  plots: StudyResult['plots'],
): StudyResult =>
  notShown(`${said} The brief states no tolerance.`, 'Add a tolerance in the brief.', facts, plots);

/** Columns of rows as numbers. */
export const columnOf = (
  rows: readonly { values: Readonly<Record<string, number | string>> }[],
  id: string,
): number[] => rows.map((row) => Number(row.values[id]));
