import type { CWriter } from '../../stage/contract.ts';
import { confirmInC } from './confirmInC.ts';

/** Levels that are passed, in C: as levelCrossings.ts, moments counted in calls. */
export function levelInC(
  {
    level,
    hysteresis,
    direction,
    n,
    m,
  }: { level: number; hysteresis: number; direction: string; n: number; m: number },
  c: CWriter,
): void {
  const at = c.constant('LEVEL', level, '', true);
  const high = c.constant('HIGH', level + hysteresis / 2, '', true);
  const low = c.constant('LOW', level - hysteresis / 2, '', true);
  const [x0, t0, side] = [c.state('x0', 'NAN'), c.state('t0', '0'), c.state('side', '0')];
  const [way, when] = [c.state('way', '0'), c.state('when', '0')];
  const confirmed = confirmInC({ n, m }, c);
  c.line(`int now = v > ${high} ? 1 : v < ${low} ? -1 : 0;`);
  c.line(`if (!isnan(${x0}) && (${x0} < ${at}) != (v < ${at})) {`);
  c.line(`  int to = v >= ${at} ? 1 : -1;`);
  c.line(`  if (${side} == -to && (${way} == 0 || !(${confirmed.begun}))) {`);
  c.line(`    ${way} = to; ${when} = ${t0} + (${at} - ${x0}) / (v - ${x0}) * (t - ${t0});`);
  c.line('  }');
  c.line('}');
  c.line(`if (${side} == 0) ${side} = now;`);
  c.line(`else if (now == -(int)${side} || ${confirmed.begun}) {`);
  const wanted =
    direction === 'either' ? `${way} != 0` : direction === 'rising' ? `${way} > 0` : `${way} < 0`;
  confirmed.vote(`now == -(int)${side}`, '  ', {
    onYes: `if (${wanted}) { found = 1; *when = ${when}; } ${side} = -${side}; ${way} = 0;`,
    onNo: `if (now == ${side}) ${way} = 0;`,
  });
  c.line(`} else if (now == ${side}) ${way} = 0;`);
  c.line(`${x0} = v; ${t0} = t;`);
}
