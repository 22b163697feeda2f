import type { Part } from '@lucky-needle/core/model';
import { printNominal, UNITS } from '@lucky-needle/core/units';

const p = (v: number) => printNominal(v);

/** The two or three figures by which a part is chosen, in words. */
export function partFacts(part: Part): string {
  return [...own(part), ...electric(part)].join(' · ');
}

function own(part: Part): string[] {
  switch (part.kind) {
    case 'sensor': {
      const symbol = UNITS[part.unit].symbol;
      return [
        `${p(part.low)} to ${p(part.high)} ${symbol}`,
        `±${p(Math.max(part.accuracyFixed, part.accuracyShare * Math.abs(part.high)))} ${symbol} uncalibrated`,
        `${p(part.rateHz)} /s`,
      ];
    }
    case 'converter':
      return [
        `${part.bits} bits`,
        `${p(part.rateHz)} /s`,
        `${part.inputs} input${part.inputs > 1 ? 's' : ''}`,
      ];
    case 'display':
      return [`${part.columns} × ${part.rows} characters`, `refresh ${p(part.refreshS)} s`];
    case 'board':
      return [
        `${part.pins.length} pins`,
        `${part.bits} bits`,
        ...(part.radio ? ['radio'] : []),
        ...(part.usbHost ? ['USB host'] : []),
      ];
    case 'supply':
      return [`${p(part.volts)} V`, part.capacityAh > 0 ? `${p(part.capacityAh)} Ah` : 'mains adapter'];
    case 'sounder':
      return [`${p(part.loudnessDb)} dB at 0.1 m`];
    case 'connector':
      return [`${part.contacts} contacts`, `${p(part.ratedV)} V, ${p(part.ratedA)} A`];
    case 'passive':
      return part.value > 0
        ? [`${p(part.value)} ${UNITS[part.valueUnit].symbol}`, `±${p(100 * part.toleranceShare)} %`]
        : [];
  }
}

function electric(part: Part): string[] {
  if (part.supplyHighV === 0) return [];
  const volts =
    part.supplyLowV === part.supplyHighV
      ? `${p(part.supplyLowV)} V`
      : `${p(part.supplyLowV)} to ${p(part.supplyHighV)} V`;
  return [part.onA > 0 ? `${volts}, ${p(1000 * part.onA)} mA` : volts];
}
