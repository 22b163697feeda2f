import { detectorKind } from '../detect/index.ts';
import type { WatchSpec } from '../model/watch.ts';
import { UNITS } from '../units/index.ts';
import type { CompiledLine, CompiledStage } from './compile.ts';
import { LineError, type CWriter } from '../stage/contract.ts';

export interface HeaderOptions {
  /** Human name of the channel; the C names are made from it. */
  readonly name: string;
  /** Lines for the comment at the top: gadget, calibration, date. */
  readonly remarks: readonly string[];
  /** What counts on its readings: a function each, where it can be written in C. */
  readonly watches?: readonly WatchSpec[];
}

interface Parts {
  readonly constants: string[];
  readonly tables: string[];
  readonly fields: string[];
  readonly init: string[];
  readonly functions: string[];
  readonly calls: string[];
}

/**
 * Writes a line as a C99 header: constants, state, start and convert functions. Bad samples come out as NAN, also the
 * samples that a decimator swallows. One raw column: `shown = name_convert(&line, raw)`; several:
 * `name_convert(&line, raw, shown)` with arrays.
 * @throws {LineError} when a stage cannot be written in C
 */
export function emitLineHeader(line: CompiledLine, options: HeaderOptions): string {
  const lower = identifier(options.name);
  const upper = lower.toUpperCase();
  const parts: Parts = { constants: [], tables: [], fields: [], init: [], functions: [], calls: [] };
  line.stages.forEach((stage, index) => emitStage(parts, line, stage, index, lower));
  const watches = line.outputs.length === 1 ? (options.watches ?? []) : [];
  const counting = watches.map((watch) => emitWatch(parts, line, watch, watches, lower));
  if (parts.fields.length === 0) {
    parts.fields.push('char unused;');
    parts.init.push('s->unused = 0;');
  }
  const widest = Math.max(line.sources.length, ...line.stages.map((s) => s.outputs.length));
  const single = line.sources.length === 1 && line.outputs.length === 1;
  const unit = line.outputs.map((o) => UNITS[o.unit].name).join(', ');
  const usage = single
    ? [
        `${lower}_line line; ${lower}_start(&line);`,
        `shown = ${lower}_convert(&line, raw);   // ${unit}; NAN when the reading is bad`,
      ]
    : [
        `${lower}_line line; ${lower}_start(&line);`,
        `LN_REAL raw[${line.sources.length}], shown[${line.outputs.length}];   // raw: ${line.sources.map((s) => commentText(s.name)).join(', ')}`,
        `${lower}_convert(&line, raw, shown);   // ${unit}; NAN when the reading is bad`,
      ];
  return `/*
${options.remarks.map((r) => ` * ${commentText(r)}`).join('\n')}
 *
 * ${callPattern(line)}:
${usage.map((u) => ` *   ${u}`).join('\n')}${counting.map((text) => `\n * ${text}`).join('')}
 * Define LN_REAL as float before including this on a board where double is slow; filters keep LN_WIDE.
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

${[...parts.constants, ...parts.tables].join('\n')}

typedef struct {
${indent(parts.fields)}
} ${lower}_line;

static inline void ${lower}_start(${lower}_line *s) {
${indent(parts.init)}
}

${parts.functions.join('\n\n')}

${convertFunction(lower, line, widest, single, parts.calls)}

#endif
`;
}

/** How often the bench called it, with what, and when a reading comes of it. */
function callPattern(line: CompiledLine): string {
  const rate = Number(line.context.sampleRateHz.toPrecision(6));
  const names = line.sources.map((s) => commentText(s.name)).join(', ');
  const call = `Call it for every sample of ${names}, ${rate} a second`;
  const rare = line.stages.findLast((s) => s.kind.comes);
  if (!rare) return call;
  return `${call}. A reading comes ${rare.kind.comes!(rare.spec.params)};\n * calls between give NAN, as a bad reading does: go on showing the last one`;
}

/** Text that cannot end a comment, nor reach into the next line. */
export const commentText = (text: string) => text.replaceAll('*/', '* /').replace(/[\\\r\n]|\?\?/g, ' ');

const indent = (lines: readonly string[]) => lines.map((l) => (l ? `  ${l}` : '')).join('\n');

function convertFunction(
  lower: string,
  line: CompiledLine,
  widest: number,
  single: boolean,
  calls: readonly string[],
): string {
  const signature = single
    ? `static inline LN_REAL ${lower}_convert(${lower}_line *s, LN_REAL raw)`
    : `static inline void ${lower}_convert(${lower}_line *s, const LN_REAL *raw, LN_REAL *shown)`;
  const take = single ? ['x[0] = raw;'] : line.sources.map((_, i) => `x[${i}] = raw[${i}];`);
  const give = single ? ['return x[0];'] : line.outputs.map((_, i) => `shown[${i}] = x[${i}];`);
  return `${signature} {
  LN_REAL x[${widest}];
  (void)s;
${indent([...take, ...calls, ...give])}
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
  const { emitC } = kind;
  if (!emitC) {
    throw new LineError(
      spec,
      `${kind.title} cannot be written in C. Take it out of the line before exporting.`,
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

/** A function that is called with each reading and says when something counts. @returns how it is used, for the comment */
function emitWatch(
  parts: Parts,
  line: CompiledLine,
  watch: WatchSpec,
  watches: readonly WatchSpec[],
  lower: string,
): string {
  const kind = detectorKind(watch.kind);
  const title = commentText(watch.name);
  const after = watches.find((w) => w.id === watch.after);
  if (!isInC(watch) || (watch.after !== null && !(after && isInC(after)))) {
    const why = isInC(watch) ? `: what it counts after is no part of this` : '';
    return `"${title}" (${kind?.title.toLowerCase() ?? watch.kind}) is counted by the bench only${why}.`;
  }
  const tag = tagOf(watch, watches);
  const name = `${lower}_counts_${tag}`;
  const body: string[] = [];
  const c = writer(parts, lower.toUpperCase(), `w_${tag}`, body, 1, line.outputRateHz);
  kind!.emitC!({ ...kind!.defaults, ...watch.params }, c);
  const calls = c.state('calls', '0');
  const [counted, open] = [c.state('counted', 'NAN'), c.state('open', '0')];
  const dead = c.constant('DEAD_TIME', watch.deadTimeS, 's', true);
  const period = c.constant('PERIOD', 1 / line.outputRateHz, 's', true);
  const gates = [`!(moment - ${counted} < ${dead})`];
  if (after) {
    const least = c.constant('NOT_BEFORE', watch.leastS, `s after ${commentText(after.name)}`, true);
    gates.push(`moment - s->sw_${tagOf(after, watches)}_counted >= ${least}`);
  }
  parts.functions
    .push(`/* ${title}: ${kind!.title.toLowerCase()}. 1 when one counts, with its moment in s and its size. */
static inline int ${name}(${lower}_line *s, LN_REAL reading, LN_WIDE *when, LN_REAL *size) {
  int found = 0;
  LN_WIDE v = reading, t = ${calls} * ${period}, began = NAN, ended = NAN, moment;
  ${calls} += 1;
  *when = NAN;
  (void)size;
  if (isnan(reading)) return 0;
${indent(body)}
  /* Whether a stretch counts is settled when it begins. */
  moment = found ? *when : began;
  if (isnan(moment)) return 0;
  if (!found || isnan(ended)) ${open} = ${gates.join(' && ')};
  if (${open} == 0) return 0;
  if (found) ${counted} = isnan(ended) ? moment : ended;
  else if (!(moment < ${counted})) ${counted} = moment;
  return found;
}`);
  return `if (${name}(&line, shown, &when, &size)) ...   // ${title}, with each reading`;
}

/** Names of C are poorer than ids: two that would be alike have their number behind them. */
function tagOf(watch: WatchSpec, watches: readonly WatchSpec[]): string {
  const name = identifier(watch.id);
  const isAlone = watches.filter((w) => identifier(w.id) === name).length === 1;
  return isAlone ? name : `${name}_${watches.indexOf(watch) + 1}`;
}

const isInC = (watch: WatchSpec) => detectorKind(watch.kind)?.emitC !== undefined && watch.column === null;

/** One bad column makes the instant bad. */
function badGuard(inputs: readonly number[], outputs: number): string {
  const any = inputs.map((i) => `isnan(x[${i}])`).join(' || ');
  const all = Array.from({ length: outputs }, (_, i) => `x[${i}] = `).join('');
  return `if (${any}) { ${all}LN_BAD; return; }`;
}

function writer(
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
    .replace(/^_+|_+$/g, '');
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
