import type { CWriter } from '../../stage/contract.ts';
import { REARM } from '../beats.ts';
import type { NOfM } from '../gates.ts';
import { confirmInC } from './confirmInC.ts';

interface BeatNumbers extends NOfM {
  readonly level: number;
  readonly minHeight: number;
  readonly refractoryS: number;
  readonly memoryS: number;
  readonly baselineS: number;
}

/** Beats by a level that follows their size, in C: as beats.ts behind baseline.ts. The size is the height of the envelope. */
export function beatInC(
  { level, minHeight, refractoryS, memoryS, baselineS, n, m }: BeatNumbers,
  c: CWriter,
): void {
  const [high, low] = [c.state('high', 'NAN'), c.state('low', '0')];
  const [x0, t0] = [c.state('x0', '0'), c.state('t0', '0')];
  const [armed, last, pending] = [c.state('armed', '0'), c.state('last', 'NAN'), c.state('pending', 'NAN')];
  // Readings that are none let more time pass: then the share is worked out anew.
  const share = (name: string, withinS: number, since: string, note: string) => {
    const usual = c.constant(name, 1 - Math.exp(-1 / (withinS * c.callsHz)), `${note} a call`, true);
    const within = c.constant(`${name}_S`, withinS, 's', true);
    return `(t - ${since} > 1.5 * ${period} ? 1 - exp(-(t - ${since}) / ${within}) : ${usual})`;
  };
  const [sure, under] = [c.state('sure', '0'), c.state('under', '0')];
  const confirmed = confirmInC({ n, m }, c);
  const period = c.constant('STEP', 1 / c.callsHz, 's', true);
  if (baselineS > 0) {
    const [base, baseT] = [c.state('base', 'NAN'), c.state('base_t', '0')];
    const part = share('BASELINE', baselineS, baseT, 'of the baseline');
    c.line(`${base} = isnan(${base}) ? v : ${base} + (v - ${base}) * ${part};`);
    c.line(`${baseT} = t;`);
    c.line(`v -= ${base};`);
  }
  const forget = share('FORGET', memoryS, t0, 'of the envelope');
  const least = c.constant('HEIGHT', minHeight, '', true);
  const quiet = c.constant('NOT_WITHIN', refractoryS, 's', true);
  const ratio = c.constant('LEVEL', level, 'of the height', true);
  c.line(`if (isnan(${high})) { ${high} = ${low} = ${x0} = v; ${t0} = t; return 0; }`);
  c.line(`LN_WIDE middle = (${high} + ${low}) / 2, forget = ${forget};`);
  c.line(`${high} += (middle - ${high}) * forget; if (v > ${high}) ${high} = v;`);
  c.line(`${low} += (middle - ${low}) * forget; if (v < ${low}) ${low} = v;`);
  c.line(`LN_WIDE height = ${high} - ${low}, tall = height > ${least} ? height : ${least};`);
  c.line(`LN_WIDE at = ${low} + ${ratio} * tall;`);
  c.line(
    `if (v < ${low} + (LN_WIDE)${REARM} * ${ratio} * tall) { ${armed} = 1; if (${sure} > 0) ${pending} = NAN; }`,
  );
  c.line(`if (${armed} > 0 && (${under} > 0 || ${x0} < at) && v >= at) {`);
  c.line(`  LN_WIDE passed = ${t0} + (at - ${x0}) / (v - ${x0}) * (t - ${t0});`);
  c.line(`  if (passed < ${t0}) passed = ${t0};`);
  c.line(`  int over = isnan(${pending}) || ${sure} > 0;`);
  c.line(
    `  if (over && (isnan(${last}) || passed - ${last} >= ${quiet})) { ${pending} = passed; ${sure} = 0; }`,
  );
  c.line('}');
  c.line(`if (!isnan(${pending}) && ${sure} == 0) {`);
  confirmed.vote('v >= at', '  ', { onYes: `${sure} = 1;`, onNo: `${pending} = NAN;` });
  c.line('}');
  c.line(`if (!isnan(${pending}) && ${sure} > 0 && height >= ${least}) {`);
  c.line(`  found = 1; *when = ${last} = ${pending}; *size = (LN_REAL)height;`);
  c.line(`  ${pending} = NAN; ${armed} = 0;`);
  c.line('}');
  c.line(`${under} = v < at;`);
  c.line(`${x0} = v; ${t0} = t;`);
}
