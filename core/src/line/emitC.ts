import type { WatchSpec } from '../model/watch.ts';
import { UNITS } from '../units/index.ts';
import type { CompiledLine, CompiledStage } from './compile.ts';
import { emitWatch } from './emitWatch.ts';
import { LineError } from '../stage/contract.ts';
import { commentText, identifier, indent, writer, type Parts } from './cParts.ts';
import { lowerFirst } from '../words/index.ts';

export interface HeaderOptions {
  /** Human name of the channel; the C names are made from it. */
  readonly name: string;
  /** Lines for the comment at the top: gadget, calibration, date. */
  readonly remarks: readonly string[];
  /** What counts on its readings: a function each, where it can be written in C. */
  readonly watches?: readonly WatchSpec[];
}

/**
 * Writes a line as a C99 header: constants, state, start and convert functions. Bad samples come out as NAN, also the
 * samples that a decimator swallows. One raw column: `shown = name_convert(&line, raw)`; several:
 * `name_convert(&line, raw, shown)` with arrays. Lines of other channels that its stages take are in it.
 * @throws {LineError} when a stage cannot be written in C
 */
export function emitLineHeader(line: CompiledLine, options: HeaderOptions): string {
  const lower = identifier(options.name);
  const upper = lower.toUpperCase();
  const { text, counting } = emitBody(line, lower, options.watches ?? []);
  const unit = line.outputs.map((o) => UNITS[o.unit].name).join(', ');
  const usage = isSingle(line)
    ? [
        `${lower}_line line; ${lower}_start(&line);`,
        `shown = ${lower}_convert(&line, raw);   // ${unit}; NAN for an invalid reading`,
      ]
    : [
        `${lower}_line line; ${lower}_start(&line);`,
        `LN_REAL raw[${line.columns.length}], shown[${line.outputs.length}];   // raw: ${line.columns.map((s) => commentText(s.name)).join(', ')}`,
        `${lower}_convert(&line, raw, shown);   // ${unit}; NAN for an invalid reading`,
      ];
  return `/*
${options.remarks.map((r) => ` * ${commentText(r)}`).join('\n')}
 *
 * ${callPattern(line)}:
${usage.map((u) => ` *   ${u}`).join('\n')}${counting.map((of) => `\n * ${of}`).join('')}
 * On boards where double is slow, define LN_REAL as float before including this file; filters still use LN_WIDE.
 */
#ifndef ${upper}_LINE_H
#define ${upper}_LINE_H

#include <math.h>

#ifndef LN_REAL
#define LN_REAL double
#endif
#ifndef LN_WIDE
#define LN_WIDE double
#endif
#ifndef LN_LOG
#define LN_LOG(v) ((LN_REAL)log((double)(v)))
#endif
#ifndef LN_BAD
#define LN_BAD ((LN_REAL)NAN)
#endif

${text}

#endif
`;
}

const isSingle = (line: CompiledLine) => line.columns.length === 1 && line.outputs.length === 1;

/** Constants, state and functions of one line, behind those of the lines that it takes. */
function emitBody(
  line: CompiledLine,
  lower: string,
  watched: readonly WatchSpec[],
): { readonly text: string; readonly counting: readonly string[] } {
  const parts: Parts = { constants: [], tables: [], fields: [], init: [], functions: [], calls: [] };
  const others = [...line.beside.values()].map((of, k) => emitOther(parts, line, of, k, lower));
  line.stages.forEach((stage, index) => emitStage(parts, line, stage, index, lower));
  const watches = line.outputs.length === 1 ? watched : [];
  const counting = watches.map((watch) => emitWatch(parts, line, watch, watches, lower));
  if (parts.fields.length === 0) {
    parts.fields.push('char unused;');
    parts.init.push('s->unused = 0;');
  }
  const text = `${others.map((of) => `${of.text}\n\n`).join('')}${[...parts.constants, ...parts.tables].join('\n')}

typedef struct {
${indent(parts.fields)}
} ${lower}_line;

static inline void ${lower}_start(${lower}_line *s) {
${indent(parts.init)}
}

${parts.functions.join('\n\n')}

${convertFunction(
  lower,
  line,
  others.map((of) => of.call),
  parts.calls,
)}`;
  return { text, counting };
}

/** The line of another channel, and the call that reads it. */
function emitOther(parts: Parts, line: CompiledLine, of: CompiledLine, k: number, lower: string) {
  const name = `${lower}_other_${k + 1}`;
  const rare = of.stages.find((s) => s.kind.comes ?? s.kind.rateOut);
  if (rare)
    throw new LineError(
      line.stages.find((s) => s.kind.over)!.spec,
      `A line that uses another channel cannot be exported as C if that channel’s ${lowerFirst(rare.kind.title)} does not give a reading for every sample. Remove the stage that uses it before exporting.`,
    );
  parts.fields.push(`${name}_line other_${k + 1};`);
  parts.init.push(`${name}_start(&s->other_${k + 1});`);
  const raw = of.sources.map((source) =>
    isSingle(line) ? 'raw' : `raw[${line.columns.findIndex((c) => c.name === source.name)}]`,
  );
  const call = isSingle(of)
    ? `others[${k}] = ${name}_convert(&s->other_${k + 1}, ${raw[0]!});`
    : `{ LN_REAL in[${raw.length}] = {${raw.join(', ')}}, out[${of.outputs.length}]; ${name}_convert(&s->other_${k + 1}, in, out); others[${k}] = out[0]; }`;
  return { text: emitBody(of, name, []).text, call };
}

/** How often the bench called it, with what, and when a reading comes of it. */
function callPattern(line: CompiledLine): string {
  const rate = Number(line.context.sampleRateHz.toPrecision(6));
  const names = line.columns.map((s) => commentText(s.name)).join(', ');
  const call = `Call for every sample of ${names}, ${rate} times per second`;
  const rare = line.stages.findLast((s) => s.kind.comes);
  if (!rare) return call;
  return `${call}. A reading comes ${rare.kind.comes!(rare.spec.params)};\n * calls in between return NAN, as for an invalid reading: keep displaying the last reading`;
}

function convertFunction(
  lower: string,
  line: CompiledLine,
  others: readonly string[],
  calls: readonly string[],
): string {
  const widest = Math.max(line.sources.length, ...line.stages.map((s) => s.outputs.length));
  const single = isSingle(line);
  const signature = single
    ? `static inline LN_REAL ${lower}_convert(${lower}_line *s, LN_REAL raw)`
    : `static inline void ${lower}_convert(${lower}_line *s, const LN_REAL *raw, LN_REAL *shown)`;
  const take = single ? ['x[0] = raw;'] : line.sources.map((_, i) => `x[${i}] = raw[${i}];`);
  const give = single ? ['return x[0];'] : line.outputs.map((_, i) => `shown[${i}] = x[${i}];`);
  return `${signature} {
  LN_REAL x[${widest}];${others.length > 0 ? `\n  LN_REAL others[${others.length}];` : ''}
  (void)s;
${indent([...others, ...take, ...calls, ...give])}
}`;
}

function emitStage(
  parts: Parts,
  line: CompiledLine,
  stage: CompiledStage,
  index: number,
  lower: string,
): void {
  const { kind, spec } = stage;
  if (kind.over && line.beside.size > 0) return emitOverStage(parts, line, stage, index, lower);
  const { emitC } = kind;
  if (!emitC) {
    throw new LineError(
      spec,
      `${kind.title} cannot be exported as C. Remove it from the line before exporting.`,
    );
  }
  const inputs = index === 0 ? line.sources : line.stages[index - 1]!.outputs;
  const copies = kind.lanewise ? inputs.length : 1;
  for (let lane = 0; lane < copies; lane++) {
    const tag = `${index + 1}_${identifier(spec.kind)}${copies > 1 ? `_${lane + 1}` : ''}`;
    const body: string[] = [];
    emitC(
      spec.params,
      writer(parts, lower.toUpperCase(), tag, body, inputs.length, line.context.sampleRateHz),
      stage.context,
    );
    const gives = stage.outputs.map((o) => UNITS[o.unit].name).join(', ');
    const comment = `/* ${index + 1}. ${kind.title}: gives ${gives} */`;
    const name = `${lower}_${tag}`;
    parts.functions.push(
      kind.lanewise
        ? `${comment}\nstatic inline LN_REAL ${name}(${lower}_line *s, LN_REAL x) {\n${indent(['(void)s;', 'if (isnan(x)) return x;', ...body, 'return x;'])}\n}`
        : `${comment}\nstatic inline void ${name}(${lower}_line *s, LN_REAL *x) {\n${indent(['(void)s;', ...(kind.vector ? [badGuard(kind.uses?.(spec.params) ?? inputs.map((_, i) => i), stage.outputs.length)] : []), ...body])}\n}`,
    );
    parts.calls.push(kind.lanewise ? `x[${lane}] = ${name}(s, x[${lane}]);` : `${name}(s, x);`);
  }
}

/** A stage that takes what other channels read, which the convert function has found out by then. */
function emitOverStage(
  parts: Parts,
  line: CompiledLine,
  { kind, spec, outputs }: CompiledStage,
  index: number,
  lower: string,
): void {
  const tag = `${index + 1}_${identifier(spec.kind)}`;
  const ids = [...line.beside.keys()];
  const others = kind.over!.channels(spec.params).map((id) => `others[${ids.indexOf(id)}]`);
  const body: string[] = [];
  const c = writer(parts, lower.toUpperCase(), tag, body, 1, line.context.sampleRateHz);
  kind.over!.emitC(spec.params, c, others);
  const bad = ['x', ...others].map((v) => `isnan(${v})`).join(' || ');
  parts.functions.push(
    `/* ${index + 1}. ${kind.title}: gives ${UNITS[outputs[0]!.unit].name} */\nstatic inline LN_REAL ${lower}_${tag}(LN_REAL x, const LN_REAL *others) {\n${indent([`if (${bad}) return LN_BAD;`, ...body, 'return x;'])}\n}`,
  );
  parts.calls.push(`x[0] = ${lower}_${tag}(x[0], others);`);
}

/** One bad column makes the instant bad. */
function badGuard(inputs: readonly number[], outputs: number): string {
  const any = inputs.map((i) => `isnan(x[${i}])`).join(' || ');
  const all = Array.from({ length: outputs }, (_, i) => `x[${i}] = `).join('');
  return `if (${any}) { ${all}LN_BAD; return; }`;
}
