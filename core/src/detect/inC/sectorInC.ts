import type { CWriter } from '../../stage/contract.ts';

interface SectorNumbers {
  readonly fromDeg: number;
  readonly toDeg: number;
  readonly hysteresisDeg: number;
  readonly shortestS: number;
}

/** Stays of a direction in a sector, in C: as kinds/sector.ts. The moment is when it came in; it has no size. */
export function sectorInC({ fromDeg, toDeg, hysteresisDeg, shortestS }: SectorNumbers, c: CWriter): void {
  const from = c.constant('FROM', fromDeg, 'deg', true);
  const to = c.constant('TO', toDeg, 'deg', true);
  const wide = c.constant('WIDTH', (((toDeg - fromDeg) % 360) + 360) % 360, 'deg, clockwise', true);
  const least = c.constant('HYSTERESIS', hysteresisDeg, 'deg', true);
  const shortest = c.constant('SHORTEST', shortestS, 's', true);
  const [inside, start] = [c.state('inside', '0'), c.state('start', '0')];
  const [x0, t0] = [c.state('x0', 'NAN'), c.state('t0', '0')];
  const around = (expression: string) => `fmod(fmod(${expression}, 360.0) + 360.0, 360.0)`;
  const short = (a: string, b: string) => `(${around(`${b} - ${a} + 180`)} - 180)`;
  c.line(`LN_WIDE past = ${around(`v - ${from}`)}, edge = ${from}, passed = t;`);
  c.line(`int comes = ${inside} == 0 && past <= ${wide}, goes = ${inside} > 0 && past > ${wide};`);
  c.line(`if (goes) goes = (past - ${wide} < 360 - past ? past - ${wide} : 360 - past) >= ${least};`);
  c.line(`if (comes && fabs(${short('v', from)}) > fabs(${short('v', to)})) edge = ${to};`);
  c.line(`if (goes && past - ${wide} <= 360 - past) edge = ${to};`);
  c.line(`if ((comes || goes) && !isnan(${x0})) {`);
  c.line(`  LN_WIDE step = ${short(x0, 'v')}, share = step == 0 ? 1 : ${short(x0, 'edge')} / step;`);
  c.line(`  if (share >= 0 && share <= 1) passed = ${t0} + share * (t - ${t0});`);
  c.line('}');
  c.line(`if (comes) { ${inside} = 1; began = ${start} = passed; }`);
  c.line('if (goes) {');
  c.line(`  ${inside} = 0;`);
  c.line(
    `  if (passed - ${start} >= ${shortest}) { found = 1; ended = passed; *when = ${start}; *size = (LN_REAL)NAN; }`,
  );
  c.line('}');
  c.line(`${x0} = v; ${t0} = t;`);
}
