import type { Evidence } from '../../model/evidence.ts';
import { printNominal, UNITS } from '../../units/index.ts';
import { dragAxis } from './drags.ts';

/** A piece of evidence in a line, for paper and logbook. */
export function evidenceInWords(e: Evidence): string {
  switch (e.kind) {
    case 'rest':
      return `At rest: ${e.raw.map((v) => printNominal(v, 5)).join(', ')} raw counts`;
    case 'cloud':
      return `Rotated through all directions: ${e.rows.length} readings`;
    case 'ac-middle':
      return `Load off: ${e.voltage.length} readings`;
    case 'ac-lag':
      return `With a resistive load: ${e.voltage.length} readings`;
    case 'ac-scale':
      return `Compared with a meter: ${e.volts.value} ±${e.volts.uncertainty} V, ${e.amperes.value} ±${e.amperes.uncertainty} A`;
    case 'drag':
      return `Drag of ${e.lengthMm} mm along ${'xy'[dragAxis(e)]}: ${e.counts[dragAxis(e)]} raw counts`;
    case 'bearing':
      return `${e.title}: reference ${printNominal(e.referenceDeg, 4)}°, reading ${printNominal(e.shownDeg, 4)}°`;
    case 'exposure':
      return `${e.title}, ${printNominal(e.dose, 4)} ±${printNominal(e.uncertainty, 2)} ${UNITS[e.unit].symbol}: readings ${e.readings.map((r) => printNominal(r.mean, 4)).join(', ')}`;
    case 'rate':
      return `${e.title}: reference ${printNominal(e.referenceHz, 6)} Hz, reading ${printNominal(e.readingHz, 6)} Hz`;
  }
}
