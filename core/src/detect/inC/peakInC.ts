import type { CWriter } from '../../stage/contract.ts';

interface PeakNumbers {
  readonly height: number;
  readonly prominence: number;
  readonly least: number;
  readonly shortestS: number;
}

/** Peaks between rises and falls, in C: as streamPeaks.ts, moment and size by the parabola through the highest three. */
export function peakInC({ height, prominence, least: few, shortestS }: PeakNumbers, c: CWriter): void {
  const least = c.constant('HEIGHT', height, '', true);
  const rise = c.constant('RISE', prominence, '', true);
  const shortest = c.constant('SHORTEST', shortestS, 's', true);
  const [count, rose] = [c.state('count', '0'), c.state('rose', '0')];
  const [lowest, on] = [c.state('lowest', 'INFINITY'), c.state('on', '0')];
  const [x0, t0] = [c.state('x0', 'NAN'), c.state('t0', '0')];
  const [topT, topX] = [c.state('top_t', '0'), c.state('top_x', '0')];
  const [beforeT, beforeX] = [c.state('before_t', '0'), c.state('before_x', 'NAN')];
  const [afterT, afterX] = [c.state('after_t', '0'), c.state('after_x', 'NAN')];
  const begins = `${topT} = t; ${topX} = v; ${beforeT} = ${t0}; ${beforeX} = ${x0}; ${afterX} = NAN;`;
  c.line(`if (${on} > 0 && isnan(${afterX})) { ${afterT} = t; ${afterX} = v; }`);
  c.line(`if (${on} == 0) {`);
  c.line(`  if (v < ${lowest}) ${lowest} = v;`);
  c.line(`  if (v - ${lowest} >= ${rise}) { ${on} = 1; ${rose} = t; ${count} = 0; ${begins} }`);
  c.line(`} else if (v > ${topX}) { ${begins} }`);
  c.line(`else if (${topX} - v >= ${rise}) {`);
  c.line(`  LN_WIDE at = ${topT}, top = ${topX};`);
  c.line(`  if (!isnan(${beforeX}) && !isnan(${afterX})) {`);
  c.line(`    LN_WIDE d1 = (${topX} - ${beforeX}) / (${topT} - ${beforeT});`);
  c.line(`    LN_WIDE d2 = (${afterX} - ${topX}) / (${afterT} - ${topT});`);
  c.line(`    LN_WIDE bend = (d2 - d1) / (${afterT} - ${beforeT});`);
  c.line('    if (bend < 0) {');
  c.line(`      LN_WIDE slope = d1 + bend * (${topT} - ${beforeT}), shift = -slope / (2 * bend);`);
  c.line('      at += shift; top += slope * shift + bend * shift * shift;');
  c.line('    }');
  c.line('  }');
  c.line(`  int enough = ${count} >= ${few} && t - ${rose} >= ${shortest};`);
  c.line(`  if (enough && ${topX} >= ${least}) { found = 1; *when = at; *size = (LN_REAL)top; }`);
  c.line(`  ${on} = 0; ${lowest} = v;`);
  c.line('}');
  c.line(`if (${on} > 0) ${count} += 1;`);
  c.line(`${x0} = v; ${t0} = t;`);
}
