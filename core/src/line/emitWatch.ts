import { detectorKind } from '../detect/index.ts';
import type { WatchSpec } from '../model/watch.ts';
import { commentText, identifier, indent, writer, type Parts } from './cParts.ts';
import type { CompiledLine } from './compile.ts';
import { lowerFirst } from '../words/index.ts';

/** A function that is called with each reading and says when something counts. @returns how it is used, for the comment */
export function emitWatch(
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
    const why = isInC(watch) ? `, because the event it depends on is not exported` : '';
    return `"${title}" (${kind ? lowerFirst(kind.title) : watch.kind}) is detected by Lucky Needle only${why}.`;
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
    .push(`/* ${title}: ${lowerFirst(kind!.title)}. Returns 1 for an event, with its time in s and its size. */
static inline int ${name}(${lower}_line *s, LN_REAL reading, LN_WIDE *when, LN_REAL *size) {
  int found = 0;
  LN_WIDE v = reading, t = ${calls} * ${period}, began = NAN, ended = NAN, moment;
  ${calls} += 1;
  *when = NAN;
  (void)size;
  if (isnan(reading)) return 0;
${indent(body)}
  /* Whether an event is ignored is decided when it starts. */
  moment = found ? *when : began;
  if (isnan(moment)) return 0;
  if (!found || isnan(ended)) ${open} = ${gates.join(' && ')};
  if (${open} == 0) return 0;
  if (found) ${counted} = isnan(ended) ? moment : ended;
  else if (!(moment < ${counted})) ${counted} = moment;
  return found;
}`);
  return `if (${name}(&line, shown, &when, &size)) ...   // ${title}: call for each reading`;
}

/** Names of C are poorer than ids: two that would be alike have their number behind them. */
function tagOf(watch: WatchSpec, watches: readonly WatchSpec[]): string {
  const name = identifier(watch.id);
  const isAlone = watches.filter((w) => identifier(w.id) === name).length === 1;
  return isAlone ? name : `${name}_${watches.indexOf(watch) + 1}`;
}

const isInC = (watch: WatchSpec) => detectorKind(watch.kind)?.emitC !== undefined && watch.column === null;
