import { printNominal } from '../units/index.ts';

/** A small part without a heatsink gets some 60 K warmer for each watt. */
export const BARE_KELVIN_PER_WATT = 60;

/**
 * Heat in a load or a shunt, P = V^2 / R, and how warm it gets above the room.
 * @throws {RangeError} for a resistance, rating or thermal resistance of 0 or less
 */
export function loadHeat(volts: number, ohm: number, ratedW: number, kelvinPerWatt: number) {
  if (!(ohm > 0) || !(ratedW > 0) || !(kelvinPerWatt > 0))
    throw new RangeError(
      `Resistance, rating and thermal resistance must be above 0; received ${ohm} ohm, ${ratedW} W and ${kelvinPerWatt} K/W.`,
    );
  const watts = volts ** 2 / ohm;
  const riseK = watts * kelvinPerWatt;
  const state =
    watts > ratedW
      ? ('fail' as const)
      : watts > ratedW / 2 || riseK > 60
        ? ('tight' as const)
        : ('pass' as const);
  const w = printNominal(watts, 2);
  return {
    watts,
    amperes: volts / ohm,
    riseK,
    state,
    sentence:
      state === 'fail'
        ? `${w} W in a part rated for ${printNominal(ratedW)} W: it will burn out. Use one rated for ${printNominal(2 * watts, 2)} W or more.`
        : `${w} W, ${printNominal((100 * watts) / ratedW, 2)} % of its rating; about ${printNominal(riseK, 2)} K above room temperature${riseK > 40 ? ', hot enough to burn fingers' : ''}.`,
  };
}
