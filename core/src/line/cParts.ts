import type { CWriter } from '../stage/contract.ts';

/** What the C of a line is put together from. */
export interface Parts {
  readonly constants: string[];
  readonly tables: string[];
  readonly fields: string[];
  readonly init: string[];
  readonly functions: string[];
  readonly calls: string[];
}

/** Text that cannot end a comment, nor reach into the next line. */
export const commentText = (text: string) => text.replaceAll('*/', '* /').replace(/[\\\r\n]|\?\?/g, ' ');

export const indent = (lines: readonly string[]) => lines.map((l) => (l ? `  ${l}` : '')).join('\n');

/** Writes one stage or detector into the parts, under names of its own. */
export function writer(
  parts: Parts,
  upper: string,
  tag: string,
  body: string[],
  inputs: number,
  callsHz: number,
): CWriter {
  return {
    inputs,
    callsHz,
    constant(name, value, note, wide = false) {
      const full = `${upper}_${tag.toUpperCase()}_${name}`;
      parts.constants.push(
        `#define ${full} ((${wide ? 'LN_WIDE' : 'LN_REAL'})${literal(value)})${note ? ` /* ${note} */` : ''}`,
      );
      return full;
    },
    table(name, values) {
      const full = `${upper}_${tag.toUpperCase()}_${name}`;
      const list = Array.from(values, literal).join(', ');
      parts.tables.push(`static const LN_REAL ${full}[${values.length}] = {${list}};`);
      return full;
    },
    state(name, initial, count) {
      const full = `s${tag}_${name}`;
      parts.fields.push(count ? `LN_REAL ${full}[${count}];` : `LN_WIDE ${full};`);
      parts.init.push(
        count ? `for (int i = 0; i < ${count}; i++) s->${full}[i] = ${initial};` : `s->${full} = ${initial};`,
      );
      return `s->${full}`;
    },
    line: (statement) => body.push(statement),
  };
}

/** Lower-case C identifier; a name without any letter or digit becomes "channel". */
export function identifier(name: string): string {
  const plain = name
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^_|_$/g, '');
  if (!plain) return 'channel';
  return /^[0-9]/.test(plain) ? `ch_${plain}` : plain;
}

/** Shortest text that reads back as the same double, always as a floating constant. */
export function literal(value: number): string {
  if (!Number.isFinite(value)) return value > 0 ? 'INFINITY' : value < 0 ? '(-INFINITY)' : 'NAN';
  const text = String(value);
  const floating = /[.e]/.test(text) ? text : `${text}.0`;
  return value < 0 ? `(${floating})` : floating;
}
