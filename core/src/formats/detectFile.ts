import { planDelimited, type DelimitedPlan } from './delimited.ts';
import { lineFields } from './lineFields.ts';

export type FileFormat =
  'delimited' | 'log' | 'json-lines' | 'senml' | 'sentences' | 'track' | 'wav' | 'package';

export const FILE_FORMATS: Readonly<Record<FileFormat, string>> = {
  delimited: 'delimited text (CSV)',
  log: 'console log with names and values',
  'json-lines': 'JSON Lines (one object per line)',
  senml: 'SenML',
  sentences: 'NMEA sentences',
  track: 'GPX track',
  wav: 'WAV audio',
  package: 'data package (zip)',
};

export interface DetectedFile {
  readonly format: FileFormat;
  /** How a table is written; null for other formats. */
  readonly plan: DelimitedPlan | null;
}

/**
 * Tells how a file is written from its first bytes, whatever its name.
 * @param head the first 64 kB or so
 * @returns a sentence that says why it cannot be told, where it cannot
 */
export function detectFile(head: Uint8Array): DetectedFile | string {
  if (head.length === 0) return 'The file is empty.';
  const starts = (text: string) => [...text].every((c, i) => head[i] === c.charCodeAt(0));
  if (starts('PK')) return { format: 'package', plan: null };
  if (starts('RIFF')) return { format: 'wav', plan: null };
  if (holdsSentences(head)) return { format: 'sentences', plan: null };
  const zeros = head.subarray(0, 4096).filter((b) => b === 0).length;
  if (zeros > 0) return 'This is a binary file. Use text, GPX, WAV, SenML or a data package.';
  const text = new TextDecoder().decode(head).replace(/^\uFEFF/, '');
  const trimmed = text.trimStart();
  if (/^<(\?xml|gpx)/.test(trimmed))
    return /<gpx\b/.test(trimmed) ? { format: 'track', plan: null } : 'The file is XML, but not a GPX track.';
  if (/^\[\s*\{/.test(trimmed)) return { format: 'senml', plan: null };
  const lines = text.split(/\r\n|\n|\r/).filter((l) => l.trim() !== '');
  // The last line may be cut short.
  const whole = lines.length > 1 ? lines.slice(0, 40) : lines;
  const share = (test: (line: string) => boolean) => whole.filter(test).length / whole.length;
  if (share((l) => l.trim().startsWith('{') && l.trim().endsWith('}')) > 0.5)
    return { format: 'json-lines', plan: null };
  if (share((l) => isPairs(l)) > 0.6) return { format: 'log', plan: null };
  const plan = planDelimited(whole.join('\n'));
  return typeof plan === 'string' ? plan : { format: 'delimited', plan };
}

/** More lines of its begin than not end in a position sentence, whatever bytes lie between them. */
function holdsSentences(head: Uint8Array): boolean {
  const lines = new TextDecoder()
    .decode(head.subarray(0, 8192))
    .split(/\r\n|\n|\r/)
    .filter((l) => l.trim() !== '')
    .slice(0, 40);
  const are = lines.filter((l) => /\$[A-Z]{5},[^$]*$/.test(l)).length;
  return are > lines.length / 2;
}

function isPairs(line: string): boolean {
  const fields = lineFields(line, { format: 'pairs', delimiter: ',' });
  return fields !== null && [...fields.values()].some((v) => Number.isFinite(Number(v)));
}
