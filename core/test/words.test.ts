import { describe, expect, it } from 'vitest';
import { DETECTORS } from '../src/detect/index.ts';
import { FIGURES } from '../src/figures/index.ts';
import { STAGES } from '../src/stages/index.ts';
import { UNITS } from '../src/units/index.ts';
import { STUDIES } from '../src/study/index.ts';
import { CHOICE_WORDS, counted, dimensionWord, listed, lowerFirst, upperFirst } from '../src/words/index.ts';

const KINDS = [
  ...[...STAGES, ...DETECTORS, ...FIGURES].map((kind) => [kind.title, kind.params] as const),
  ...STUDIES.map((kind) => [kind.title, kind.settings] as const),
];

describe('words for keys', () => {
  it.each(KINDS)('%s: every value that a parameter can be set to has a word of its own', (_title, params) => {
    const rules = Object.values(params.properties as Record<string, { enum?: readonly string[] }>);
    for (const key of rules.flatMap((rule) => rule.enum ?? [])) {
      const isPlain = key in UNITS || /^[A-Z]$/.test(key);
      expect(isPlain || CHOICE_WORDS[key], `no word for “${key}”`).toBeTruthy();
    }
  });

  it('are told apart where two keys stand in one list', () => {
    const words = Object.values(CHOICE_WORDS);
    expect(words.filter((w, k) => words.indexOf(w) !== k)).toEqual([]);
  });

  it('name what a unit measures in the field’s own term', () => {
    expect(dimensionWord(UNITS.rpm.dimension)).toBe('frequency');
    expect(dimensionWord('turning rate')).toBe('angular velocity');
    expect(dimensionWord('pressure')).toBe('pressure');
  });
});

describe('a number with its noun', () => {
  it.each([
    [0, '0 rows'],
    [1, '1 row'],
    [2, '2 rows'],
    [-1, '-1 rows'],
  ])('%d', (n, text) => expect(counted(n, 'row')).toBe(text));

  it('takes a plural that is not made with an s', () =>
    expect(counted(3, 'loss', 'losses')).toBe('3 losses'));
});

it.each([
  [[], ''],
  [['a'], 'a'],
  [['a', 'b'], 'a and b'],
  [['a', 'b', 'c'], 'a, b and c'],
])('a list as a sentence has it: %j', (items, text) => expect(listed(items)).toBe(text));

it.each([
  ['Series resistor', 'series resistor'],
  ['Voltage divider', 'voltage divider'],
  ['ADC', 'ADC'],
  ['AC power', 'AC power'],
  ['CO', 'CO'],
  ['pH', 'pH'],
  ['R0', 'R0'],
  ['I2C bus', 'I2C bus'],
  ['FIR low-pass', 'FIR low-pass'],
  ['16-bit ADC, four inputs', '16-bit ADC, four inputs'],
  ['Butterworth low-pass', 'Butterworth low-pass'],
  ['A', 'A'],
  ['', ''],
])('a title inside a sentence keeps names and abbreviations: %s', (title, inside) =>
  expect(lowerFirst(title)).toBe(inside),
);

it.each([
  ['no readings yet', 'No readings yet'],
  ['éclair', 'Éclair'],
  ['', ''],
])('a text that starts a sentence: “%s”', (text, first) => expect(upperFirst(text)).toBe(first));
