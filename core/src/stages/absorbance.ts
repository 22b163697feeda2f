import { Type } from 'typebox';
import { choice, number } from '../stage/params.ts';
import { scalarStage } from '../stage/scalarStage.ts';
import { REASON } from '../stage/contract.ts';

/**
 * Light through a sample to transmittance, T = (sample - dark) / (blank - dark), or to absorbance, A = -log10 T.
 * Counts at or above the detector's full scale are saturated; counts not above dark leave nothing to take a logarithm of.
 * Source: the law of Bouguer, Lambert and Beer; IUPAC Gold Book, "absorbance".
 */
export const absorbance = scalarStage<{ dark: number; blank: number; fullScale: number; gives: string }>({
  kind: 'absorbance',
  title: 'Absorbance',
  summary: 'Converts counts to transmittance or absorbance, using dark and blank',
  params: Type.Object({
    dark: number('Dark', { unit: 'counts' }),
    blank: number('Blank', { unit: 'counts' }),
    fullScale: number('Full-scale count', { above: 0, unit: 'counts' }),
    gives: choice('Output', ['absorbance', 'transmittance']),
  }),
  defaults: { dark: 0, blank: 50000, fullScale: 65535, gives: 'absorbance' },
  takes: ['count'],
  gives: ({ gives }) => (gives === 'absorbance' ? 'absorbance' : '1'),
  scalar({ dark, blank, fullScale, gives }) {
    if (!(blank > dark))
      throw new RangeError(
        `Absorbance: the blank must be brighter than the dark; received ${blank} and ${dark} counts. Capture both again, the blank with the lamp on.`,
      );
    const span = blank - dark;
    const isAbsorbance = gives === 'absorbance';
    return {
      forward(counts) {
        if (!(counts < fullScale) || (isAbsorbance && !(counts > dark))) return Number.NaN;
        const t = (counts - dark) / span;
        return isAbsorbance ? -Math.log10(t) : t;
      },
      inverse: (y) => dark + span * (isAbsorbance ? 10 ** -y : y),
      derivative: (counts) => (isAbsorbance ? -1 / ((counts - dark) * Math.LN10) : 1 / span),
      reasonAt: (counts) => (counts >= fullScale ? REASON.saturatedHigh : REASON.saturatedLow),
    };
  },
  emitC({ dark, blank, fullScale, gives }, c) {
    const d = c.constant('DARK', dark, 'counts');
    c.line(`if (!(x < ${c.constant('FULL_SCALE', fullScale, 'counts')})) return LN_BAD;`);
    if (gives === 'absorbance') c.line(`if (!(x > ${d})) return LN_BAD;`);
    c.line(`x = (x - ${d}) / (${c.constant('BLANK', blank, 'counts')} - ${d});`);
    if (gives === 'absorbance') c.line(`x = -LN_LOG(x) / ${c.constant('LN10', Math.LN10, '')};`);
  },
});
