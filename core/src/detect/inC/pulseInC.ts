import type { CWriter } from '../../stage/contract.ts';

/** Pulses with their peak, in C: as pulses.ts. The moment is the rising crossing, the size the top of the parabola. */
export function pulseInC(
  { level, hysteresis, shortestS }: { level: number; hysteresis: number; shortestS: number },
  c: CWriter,
): void {
  const at = c.constant('LEVEL', level, '', true);
  const below = c.constant('LEFT', level - hysteresis, '', true);
  const [x0, t0, on] = [c.state('x0', 'NAN'), c.state('t0', '0'), c.state('on', '0')];
  const [start, leaves] = [c.state('start', '0'), c.state('leaves', 'NAN')];
  const [peak, before, after] = [c.state('peak', '0'), c.state('before', 'NAN'), c.state('after', 'NAN')];
  c.line(`if (${on} > 0) {`);
  c.line(
    `  if (${x0} >= ${at} && v < ${at}) ${leaves} = ${t0} + (${at} - ${x0}) / (v - ${x0}) * (t - ${t0});`,
  );
  c.line(`  if (v >= ${at}) ${leaves} = NAN;`);
  c.line(`  if (v > ${peak}) { ${peak} = v; ${before} = ${x0}; ${after} = NAN; }`);
  c.line(`  else if (isnan(${after})) ${after} = v;`);
  c.line(`  if (!isnan(${leaves}) && v < ${below}) {`);
  c.line(`    LN_WIDE bend = ${before} - 2 * ${peak} + ${after}, top = ${peak};`);
  c.line(`    if (bend < 0) top -= (${after} - ${before}) * (${after} - ${before}) / (8 * bend);`);
  c.line(`    if (!(top > ${peak})) top = ${peak};`);
  const shortest = c.constant('SHORTEST', shortestS, 's', true);
  c.line(
    `    if (${leaves} - ${start} >= ${shortest}) { found = 1; *when = ${start}; *size = (LN_REAL)top; }`,
  );
  c.line(`    ${on} = 0; ${leaves} = NAN;`);
  c.line('  }');
  c.line(`} else if (${x0} < ${at} && v >= ${at}) {`);
  c.line(`  ${on} = 1; ${start} = ${t0} + (${at} - ${x0}) / (v - ${x0}) * (t - ${t0});`);
  c.line(`  ${peak} = v; ${before} = ${x0}; ${after} = NAN;`);
  c.line('}');
  c.line(`${x0} = v; ${t0} = t;`);
}
