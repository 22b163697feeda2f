import { Type } from 'typebox';
import { choice } from '../../stage/params.ts';
import { figure, none, type FigureKind } from '../kind.ts';
import { samplingLoss } from '../samplingLoss.ts';
import { counted } from '../../words/index.ts';

/** Size of events: the peak of the last blow, the highest since the reset. */
export const eventSize: FigureKind<{ which: string }> = {
  kind: 'event-size',
  title: 'Event size',
  summary: 'Peak of the last event, or the highest, lowest or mean peak since reset',
  params: Type.Object({ which: choice('Which', ['last', 'highest', 'lowest', 'mean']) }),
  defaults: { which: 'last' },
  roles: { of: { title: 'Events', wants: 'moment' } },
  others: [],
  levels: [],
  unit: (_params, input) => input,
  start({ which }, { budget, sampleRateHz }) {
    const m = { n: 0, value: Number.NaN, atS: Number.NaN, widthS: 0, sum: 0 };
    return {
      memory: m,
      event(_role, e) {
        if (!Number.isFinite(e.value)) return;
        m.n++;
        m.sum += e.value;
        const better =
          m.n === 1 ||
          which === 'last' ||
          (which === 'highest' && e.value > m.value) ||
          (which === 'lowest' && e.value < m.value);
        if (!better) return;
        m.value = e.value;
        m.atS = e.timeS;
        m.widthS = e.endS - e.timeS;
      },
      now() {
        if (m.n === 0) return none('Waiting for the first event.');
        const isMean = which === 'mean';
        const value = isMean ? m.sum / m.n : m.value;
        const { systematic, noise } = budget(value);
        const loss = m.widthS > 0 ? samplingLoss(m.widthS * sampleRateHz) : 0;
        const single = Math.hypot(noise, loss * Math.abs(value));
        const u = Math.hypot(systematic, isMean ? single / Math.sqrt(m.n) : single);
        const lost =
          m.widthS > 0
            ? ` ${Math.round(m.widthS * sampleRateHz)} samples per event: sampling may miss up to ${(100 * loss).toPrecision(2)} % of the peak.`
            : '';
        return figure(
          value,
          u,
          isMean ? Number.NaN : m.atS,
          `${isMean ? 'Mean' : `The ${which}`} of ${counted(m.n, 'event')}.${lost}`,
        );
      },
    };
  },
};
