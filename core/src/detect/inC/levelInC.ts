import type { CWriter } from '../../stage/contract.ts';

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
  const [way, when, waited] = [c.state('way', '0'), c.state('when', '0'), c.state('waited', '0')];
  const [ring, place, count] = [c.state('ring', '0', m), c.state('place', '0'), c.state('count', '0')];
  c.line(`int now = v > ${high} ? 1 : v < ${low} ? -1 : 0;`);
  c.line(`if (!isnan(${x0}) && (${x0} < ${at}) != (v < ${at})) {`);
  c.line(`  int to = v >= ${at} ? 1 : -1;`);
  c.line(`  if (${side} == -to && (${way} == 0 || ${count} == 0)) {`);
  c.line(`    ${waited} = 0; ${way} = to; ${when} = ${t0} + (${at} - ${x0}) / (v - ${x0}) * (t - ${t0});`);
  c.line('  }');
  c.line('}');
  c.line(`if (${side} == 0) ${side} = now;`);
  c.line('else {');
  c.line(`  int beyond = now == -(int)${side};`);
  c.line(`  ${count} += beyond - ${ring}[(int)${place}]; ${ring}[(int)${place}] = beyond;`);
  c.line(`  ${place} = ${place} < ${m - 1} ? ${place} + 1 : 0;`);
  c.line(`  if (${count} >= ${n}) {`);
  const wanted =
    direction === 'either' ? `${way} != 0` : direction === 'rising' ? `${way} > 0` : `${way} < 0`;
  c.line(`    if (${wanted}) { found = 1; *when = ${when}; }`);
  c.line(`    ${side} = now == 0 ? -${side} : now; ${way} = 0; ${count} = 0; ${place} = 0;`);
  c.line(`    for (int i = 0; i < ${m}; i++) ${ring}[i] = 0;`);
  c.line(`  } else if (${way} != 0) {`);
  c.line(`    ${waited} += 1;`);
  c.line(`    if (${waited} >= ${m} && ${count} == 0 && now == ${side}) ${way} = 0;`);
  c.line('  }');
  c.line('}');
  c.line(`${x0} = v; ${t0} = t;`);
}
