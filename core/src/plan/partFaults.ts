import type { Part } from '../model/part.ts';
import { ENVIRONMENT_WORDS, listed, SIGNAL_WORDS } from '../words/index.ts';

export interface PartFault {
  readonly field: string;
  readonly message: string;
}

/** What a part says that cannot be: the rules that its schema cannot tell. */
export function partFaults(part: Part): PartFault[] {
  const faults: PartFault[] = [];
  const add = (field: string, message: string) => faults.push({ field, message });
  if (part.supplyHighV < part.supplyLowV)
    add(
      'supplyHighV',
      `The maximum supply voltage (${part.supplyHighV} V) must not be below the minimum (${part.supplyLowV} V). Enter 0 for both if the part has no supply.`,
    );
  if (part.peakA < part.onA && part.peakA > 0)
    add(
      'peakA',
      `The peak current (${part.peakA} A) must not be below the current while on (${part.onA} A).`,
    );
  if (part.bus === 'I2C' && part.addresses.length === 0)
    add('addresses', 'An I2C part needs an address, such as 0x3C.');
  const both = part.bears.filter((s) => part.fails.includes(s));
  if (both.length > 0)
    add(
      'fails',
      `A part cannot be both suitable and not suitable for ${listed(both.map((b) => ENVIRONMENT_WORDS[b]))}. List each only once.`,
    );
  if (part.kind !== 'sensor') return faults;
  if (!(part.high > part.low))
    add('high', `The highest value (${part.high}) must be above the lowest (${part.low}).`);
  if (['number', 'codes'].includes(part.signal) && !(part.step > 0))
    add(
      'step',
      `A sensor that outputs ${SIGNAL_WORDS[part.signal]} needs a smallest step above 0; received ${part.step}.`,
    );
  if (part.signal === 'thermistor' && !(part.r0Ohm > 0 && part.betaK > 0 && part.seriesOhm > 0))
    add('r0Ohm', 'A thermistor needs R0, beta and a series resistor, each above 0.');
  if (
    part.signal === 'heated element' &&
    !(part.r0Ohm > 0 && part.seriesOhm > 0 && part.baseline > 0 && part.exponent !== 0)
  )
    add(
      'r0Ohm',
      'A heated gas sensor needs its resistance and level in clean air, a load resistor and an exponent other than 0.',
    );
  if (['voltage', 'bridge'].includes(part.signal) && part.fullV === part.zeroV)
    add(
      'fullV',
      `The output voltage at the highest reading must differ from that at the lowest; both are ${part.fullV} V.`,
    );
  if (part.signal === 'light' && !(part.zeroV > 0))
    add('zeroV', 'A light sensor needs its output voltage with the blank, above 0 V.');
  return faults;
}
