import { UNITS } from '../units/index.ts';
import type { CompiledLine } from './compile.ts';
import { LineError } from './stage.ts';

export interface HeaderOptions {
  /** Human name of the channel; the C names are made from it. */
  readonly name: string;
  /** Lines for the comment at the top: gadget, calibration, date. */
  readonly remarks: readonly string[];
}

/**
 * Writes a line as a C99 header: constants, state, start and convert functions. Bad samples come out as NAN.
 * @throws {LineError} when a stage cannot be written in C
 */
export function emitLineHeader(line: CompiledLine, options: HeaderOptions): string {
  const lower = identifier(options.name);
  const upper = lower.toUpperCase();
  const constants: string[] = [];
  const fields: string[] = [];
  const init: string[] = [];
  const body: string[] = [];
  line.stages.forEach((stage, index) => {
    const { kind, spec } = stage;
    if (!kind.emitC) {
      throw new LineError(
        spec,
        `${kind.title} cannot be written in C. Take it out of the line before exporting.`,
      );
    }
    const tag = `${index + 1}_${identifier(spec.kind)}`;
    body.push(
      '',
      `/* ${index + 1}. ${kind.title}: gives ${stage.outputs.map((o) => UNITS[o.unit].name).join(', ')} */`,
    );
    if (kind.role === 'filter') body.push('if (isnan(x)) return x;');
    kind.emitC(
      spec.params,
      {
        constant(name, value, note) {
          const full = `${upper}_${tag.toUpperCase()}_${name}`;
          constants.push(`#define ${full} ((LN_REAL)${literal(value)})${note ? ` /* ${note} */` : ''}`);
          return full;
        },
        state(name, initial, count) {
          const full = `s${tag}_${name}`;
          fields.push(count ? `LN_REAL ${full}[${count}];` : `LN_REAL ${full};`);
          if (!count) init.push(`s->${full} = ${initial};`);
          return `s->${full}`;
        },
        line: (statement) => body.push(statement),
      },
      line.context,
    );
  });
  if (fields.length === 0) {
    fields.push('char unused;');
    init.push('s->unused = 0;');
  }
  const unit = UNITS[line.outputs[0]!.unit].name;
  const indent = (lines: string[]) => lines.map((l) => (l ? `  ${l}` : '')).join('\n');
  return `/*
${options.remarks.map((r) => ` * ${r.replaceAll('*/', '* /')}`).join('\n')}
 *
 * Feed raw readings at ${line.context.sampleRateHz} Hz:
 *   ${lower}_line line; ${lower}_start(&line);
 *   shown = ${lower}_convert(&line, raw);   // ${unit}; NAN when the reading is bad
 * Define LN_REAL as float before including this on a board where double is slow.
 */
#ifndef ${upper}_LINE_H
#define ${upper}_LINE_H

#include <math.h>

#ifndef LN_REAL
#define LN_REAL double
#endif
#ifndef LN_LOG
#define LN_LOG(v) ((LN_REAL)log((double)(v)))
#endif
#ifndef LN_BAD
#define LN_BAD ((LN_REAL)NAN)
#endif

${constants.join('\n')}

typedef struct {
${indent(fields)}
} ${lower}_line;

static inline void ${lower}_start(${lower}_line *s) {
${indent(init)}
}

static inline LN_REAL ${lower}_convert(${lower}_line *s, LN_REAL raw) {
  LN_REAL x = raw;
  (void)s;
${indent(body)}

  return x;
}

#endif
`;
}

/** Lower-case C identifier; a name without any letter or digit becomes "channel". */
function identifier(name: string): string {
  const plain = name
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^_+|_+$/g, '');
  if (!plain) return 'channel';
  return /^[0-9]/.test(plain) ? `ch_${plain}` : plain;
}

/** Shortest text that reads back as the same double, always as a floating constant. */
function literal(value: number): string {
  const text = String(value);
  const floating = /[.e]/.test(text) ? text : `${text}.0`;
  return value < 0 ? `(${floating})` : floating;
}
