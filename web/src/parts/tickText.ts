import type { PlotAxis } from './plotTypes.ts';

const RAISED = '⁰¹²³⁴⁵⁶⁷⁸⁹';

/** A mark on an axis: as it is while it is short, else with a power of ten. */
export function tickText(value: number): string {
  const plain = Number(value.toPrecision(10));
  const size = Math.abs(plain);
  if (plain === 0 || (size >= 1e-4 && size < 1e7)) return String(plain);
  const power = Math.floor(Math.log10(size) + 1e-9);
  const front = Number((plain / 10 ** power).toPrecision(6));
  const digits = [...String(Math.abs(power))].map((d) => RAISED[Number(d)]!).join('');
  return `${front === 1 ? '' : front === -1 ? '−' : `${front}·`}10${power < 0 ? '⁻' : ''}${digits}`;
}

/** A place on an axis in words: the name that stands for its number, else the number to so many digits. */
export const placeText = ({ names, unit }: PlotAxis, value: number, digits: number): string =>
  names ? nameAt(names, value) : `${Number(value.toPrecision(digits))} ${unit}`.trim();

/** Marks of one thing may stand a little beside its number, so that none hides another. */
function nameAt(names: readonly string[], value: number): string {
  const place = Math.round(value);
  return Math.abs(value - place) < 0.4 ? (names[place - 1] ?? '') : '';
}

/** On a logarithmic axis only marks at 1, 2 and 5 are named: the others stand too close. */
export const isNamedOnLog = (value: number): boolean =>
  [1, 2, 5].includes(Number((value / 10 ** Math.floor(Math.log10(value) + 1e-9)).toPrecision(6)));
