import type { CWriter } from '../../stage/contract.ts';
import type { NOfM } from '../gates.ts';

/** A confirmation in C, as gates.ts. */
export function confirmInC({ n, m }: NOfM, c: CWriter) {
  const [yes, no] = [c.state('yes', '0'), c.state('no', '0')];
  return {
    /** Any reading said so since the count began. */
    begun: `${yes} > 0`,
    /** Writes the vote of a reading, and what follows from a yes or a no. */
    vote(saysSo: string, indent: string, { onYes, onNo = '' }: { onYes: string; onNo?: string }): void {
      c.line(`${indent}if (${saysSo}) ${yes} += 1; else ${no} += 1;`);
      c.line(`${indent}if (${yes} >= ${n}) { ${yes} = ${no} = 0; ${onYes} }`);
      c.line(`${indent}else if (${no} > ${m - n}) { ${yes} = ${no} = 0; ${onNo} }`);
    },
  };
}
