import { GLOSSARY, type GlossaryEntry } from './glossary.ts';

/** A piece of a text: plain, or a term with its explanation. */
export interface TextPart {
  readonly text: string;
  readonly entry: GlossaryEntry | null;
}

const SPELLINGS = GLOSSARY.flatMap((entry) => [entry.term, ...entry.also].map((text) => ({ text, entry })))
  // The longest first, so that “coverage factor k” is not taken for “coverage factor” and a rest.
  .toSorted((a, b) => b.text.length - a.text.length);

const PATTERN = new RegExp(
  `(?<![\\p{L}\\p{N}-])(?:${SPELLINGS.map((s) => s.text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')).join('|')})(?![\\p{L}\\p{N}-])`,
  'gu',
);
const ENTRY_OF = new Map(SPELLINGS.map((s) => [s.text, s.entry]));

/**
 * Cuts a text at the terms of the glossary. Each term is marked where it stands first; later ones are plain.
 * @param text as it is shown
 * @returns pieces in order, which give the text when they are joined
 */
export function findTerms(text: string): TextPart[] {
  const parts: TextPart[] = [];
  const seen = new Set<string>();
  let from = 0;
  for (const match of text.matchAll(PATTERN)) {
    const entry = ENTRY_OF.get(match[0])!;
    if (seen.has(entry.id)) continue;
    seen.add(entry.id);
    if (match.index > from) parts.push({ text: text.slice(from, match.index), entry: null });
    parts.push({ text: match[0], entry });
    from = match.index + match[0].length;
  }
  if (from < text.length || parts.length === 0) parts.push({ text: text.slice(from), entry: null });
  return parts;
}
