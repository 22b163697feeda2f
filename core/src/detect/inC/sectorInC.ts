import type { CWriter } from '../../stage/contract.ts';
import type { NOfM } from '../gates.ts';
import { confirmInC } from './confirmInC.ts';

interface SectorNumbers extends NOfM {
  readonly fromDeg: number;
  readonly toDeg: number;
  readonly hysteresisDeg: number;
  readonly shortestS: number;
}

/** Stays of a direction in a sector, in C: as kinds/sector.ts. The moment is when it came in; it has no size. */
export function sectorInC(
  { fromDeg, toDeg, hysteresisDeg, shortestS, n, m }: SectorNumbers,
  c: CWriter,
): void {
  const from = c.constant('FROM', fromDeg, 'deg', true);
  const to = c.constant('TO', toDeg, 'deg', true);
  const wide = c.constant('WIDTH', (((toDeg - fromDeg) % 360) + 360) % 360, 'deg, clockwise', true);
  const least = c.constant('HYSTERESIS', hysteresisDeg, 'deg', true);
  const shortest = c.constant('SHORTEST', shortestS, 's', true);
  const [inside, start] = [c.state('inside', '0'), c.state('start', '0')];
  const [x0, t0] = [c.state('x0', 'NAN'), c.state('t0', '0')];
  const around = (expression: string) => `fmod(fmod(${expression}, 360.0) + 360.0, 360.0)`;
  const short = (a: string, b: string) => `(${around(`${b} - ${a} + 180`)} - 180)`;
  const [passing, when] = [c.state('passing', '0'), c.state('when', '0')];
  const confirmed = confirmInC({ n, m }, c);
  c.line(`LN_WIDE past = ${around(`v - ${from}`)};`);
  c.line(`int changes = ${inside} > 0 ? past > ${wide} : past <= ${wide};`);
  c.line(`LN_WIDE beyond = past - ${wide} < 360 - past ? past - ${wide} : 360 - past;`);
  c.line(`int near = ${inside} > 0 && past > ${wide} && beyond < ${least};`);
  c.line(`if (${passing} == 0 && changes && !near) {`);
  c.line(`  LN_WIDE edge = fabs(${short('v', from)}) <= fabs(${short('v', to)}) ? ${from} : ${to};`);
  c.line(`  ${passing} = 1; ${when} = t;`);
  c.line(`  if (!isnan(${x0})) {`);
  c.line(`    LN_WIDE step = ${short(x0, 'v')}, share = step == 0 ? 1 : ${short(x0, 'edge')} / step;`);
  c.line(`    if (share >= 0 && share <= 1) ${when} = ${t0} + share * (t - ${t0});`);
  c.line('  }');
  c.line('}');
  c.line(`if (${passing} > 0 && !near) {`);
  c.line('  int turned = 0;');
  confirmed.vote('changes', '  ', { onYes: `turned = 1; ${passing} = 0;`, onNo: `${passing} = 0;` });
  c.line(`  if (turned && ${inside} == 0) { ${inside} = 1; began = ${start} = ${when}; }`);
  c.line('  else if (turned) {');
  c.line(`    ${inside} = 0;`);
  c.line(`    if (${when} - ${start} >= ${shortest}) {`);
  c.line(`      found = 1; ended = ${when}; *when = ${start}; *size = (LN_REAL)NAN;`);
  c.line('    }');
  c.line('  }');
  c.line('}');
  c.line(`${x0} = v; ${t0} = t;`);
}
