import { describe, expect, it } from 'vitest';
import { findTerms, GLOSSARY } from '../src/words/index.ts';

const marked = (text: string) =>
  findTerms(text)
    .filter((p) => p.entry)
    .map((p) => [p.text, p.entry!.id]);

describe('the glossary', () => {
  it('has one entry for each id and each spelling', () => {
    const ids = GLOSSARY.map((e) => e.id);
    expect(new Set(ids).size).toBe(ids.length);
    const spellings = GLOSSARY.flatMap((e) => [e.term, ...e.also]);
    expect(spellings.filter((s, k) => spellings.indexOf(s) !== k)).toEqual([]);
  });

  it.each(GLOSSARY.map((e) => [e.term, e] as const))(
    '%s is explained in one or two sentences, with an example',
    (_term, { text, example }) => {
      // An abbreviation or a number with a point in it ends no sentence.
      const sentences = text.split(/[.!?](?:\s|$)/).filter(Boolean);
      expect(sentences.length).toBeLessThanOrEqual(2);
      expect(text).toMatch(/^[\p{Lu}\d].*\.$/u);
      expect(example).toMatch(/\.”?$/);
    },
  );

  it.each(GLOSSARY.flatMap((e) => [e.term, ...e.also].map((s) => [s, e.id] as const)))(
    '“%s” is found by its own spelling',
    (spelling, id) => expect(marked(`It says: ${spelling}.`)).toEqual([[spelling, id]]),
  );
});

describe('finding terms in a text', () => {
  it.each(['', 'Nothing to explain here.', 'Save the brief. The tolerance is ±1 °C; the tolerance again.'])(
    'loses no character: “%s”',
    (text) =>
      expect(
        findTerms(text)
          .map((p) => p.text)
          .join(''),
      ).toBe(text),
  );

  it('explains a term once in a text, where it stands first', () => {
    const parts = findTerms('The tolerance is small. A smaller tolerance costs more.');
    expect(parts.filter((p) => p.entry).length).toBe(1);
    expect(parts[1]).toMatchObject({ text: 'tolerance', entry: { id: 'tolerance' } });
  });

  it('takes the longest spelling, and no piece of a word', () => {
    expect(marked('A true-up is a calibration.').map(([, id]) => id)).not.toContain('k');
    expect(marked('intolerance')).toEqual([]);
    expect(marked('pre-tolerance')).toEqual([]);
  });
});
