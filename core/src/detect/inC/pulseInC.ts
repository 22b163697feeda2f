import type { CWriter } from '../../stage/contract.ts';
import type { NOfM } from '../gates.ts';
import { confirmInC } from './confirmInC.ts';

interface PulseNumbers extends NOfM {
  readonly level: number;
  readonly hysteresis: number;
  readonly shortestS: number;
}

/** Pulses with their peak, in C: as pulses.ts. The moment is the rising crossing, the size the top of the parabola. */
export function pulseInC(params: PulseNumbers, c: CWriter): void {
  stretchInC(params, c, (s) => {
    c.line(`    LN_WIDE bend = ${s.before} - 2 * ${s.peak} + ${s.after}, top = ${s.peak};`);
    c.line(`    if (bend < 0) top -= (${s.after} - ${s.before}) * (${s.after} - ${s.before}) / (8 * bend);`);
    c.line(`    if (!(top > ${s.peak})) top = ${s.peak};`);
    return 'top';
  });
}

/** Stretches above or below a level, in C: as stretchesBeyond.ts. The size is the reading that lies furthest beyond. */
export function beyondInC({ side, ...params }: PulseNumbers & { side: string }, c: CWriter): void {
  const isBelow = side === 'below';
  if (isBelow) c.line('v = -v;');
  const level = isBelow ? -params.level : params.level;
  // What is beyond at the first reading rose there from within the level.
  const first = level - params.hysteresis - 1;
  stretchInC({ ...params, level }, c, ({ peak }) => (isBelow ? `-${peak}` : peak), first);
}

/** @param size writes what tells the size of a stretch that has ended, and gives its expression @param first what came before the first reading */
function stretchInC(
  { level, hysteresis, shortestS, n, m }: PulseNumbers,
  c: CWriter,
  size: (state: { peak: string; before: string; after: string }) => string,
  first = Number.NaN,
): void {
  const at = c.constant('LEVEL', level, '', true);
  const below = c.constant('LEFT', level - hysteresis, '', true);
  const [x0, t0, on] = [c.state('x0', 'NAN'), c.state('t0', '0'), c.state('on', '0')];
  const [start, leaves] = [c.state('start', '0'), c.state('leaves', 'NAN')];
  const [peak, before, after] = [c.state('peak', '0'), c.state('before', 'NAN'), c.state('after', 'NAN')];
  if (Number.isFinite(first)) {
    const within = c.constant('WITHIN', first, '', true);
    c.line(`if (isnan(${x0})) { ${x0} = ${within}; ${t0} = t; }`);
  }
  const confirmed = confirmInC({ n, m }, c);
  const shortest = c.constant('SHORTEST', shortestS, 's', true);
  // on: 0 within, 1 beyond but not confirmed yet, 2 beyond.
  c.line(`if (${on} > 0) {`);
  c.line(`  if (${on} > 1 && isnan(${leaves}) && ${x0} >= ${at} && v < ${at})`);
  c.line(`    ${leaves} = ${t0} + (${at} - ${x0}) / (v - ${x0}) * (t - ${t0});`);
  c.line(`  if (v > ${peak}) { ${peak} = v; ${before} = ${x0}; ${after} = NAN; }`);
  c.line(`  else if (isnan(${after})) ${after} = v;`);
  c.line(`} else if (${x0} < ${at} && v >= ${at}) {`);
  c.line(`  ${on} = 1; ${start} = ${t0} + (${at} - ${x0}) / (v - ${x0}) * (t - ${t0});`);
  c.line(`  ${peak} = v; ${before} = ${x0}; ${after} = NAN;`);
  c.line('}');
  c.line('int ends = 0;');
  c.line(`if (${on} == 1) {`);
  confirmed.vote(`v >= ${at}`, '  ', { onYes: `${on} = 2; began = ${start};`, onNo: `${on} = 0;` });
  c.line(`} else if (${on} > 1 && !isnan(${leaves}) && (v >= ${at} || v < ${below})) {`);
  confirmed.vote(`v < ${at}`, '  ', { onYes: 'ends = 1;', onNo: `${leaves} = NAN;` });
  c.line('}');
  c.line('if (ends) {');
  const worth = size({ peak, before, after });
  c.line(`  if (${leaves} - ${start} >= ${shortest}) {`);
  c.line(`    found = 1; ended = ${leaves}; *when = ${start}; *size = (LN_REAL)(${worth});`);
  c.line('  }');
  c.line(`  ${on} = 0; ${leaves} = NAN;`);
  c.line('}');
  c.line(`${x0} = v; ${t0} = t;`);
}
