import { Type } from 'typebox';
import { idsIn, overStage } from '../stage/overStage.ts';
import { channelIds, number } from '../stage/params.ts';

/** Below this share of what it reads where it was trued up, a sensor says nothing of what it senses any more. */
const LEAST_SHARE = 0.05;

/**
 * A reading put right for what surrounds the sensor: divided by 1 and so much for each unit by which temperature, damp or the
 * like, as another channel reads it, lies off where the channel was trued up.
 */
export const bySurroundings = overStage<{ channels: string; share: number; at: number }>({
  kind: 'by-surroundings',
  title: 'Environmental compensation',
  summary: 'Corrects the reading for temperature, humidity or similar, measured by another channel',
  params: Type.Object({
    channels: channelIds('Compensating channel', 1),
    share: number('Change per unit, as a share of the reading', { min: -10, max: 10 }),
    at: number('Value of that channel at calibration'),
  }),
  defaults: { channels: '', share: 0, at: 20 },
  channels: ({ channels }) => idsIn(channels),
  takes: (_params, _own, others) => others.length === 1,
  inWords: 'one other channel',
  combine: ({ share, at }) => {
    return (x, [y]) => {
      const factor = 1 + share * (y! - at);
      return factor > LEAST_SHARE ? x / factor : Number.NaN;
    };
  },
  emitC({ share, at }, c, [y]) {
    const factor = `((LN_REAL)1 + ${c.constant('SHARE', share, 'share per unit')} * (${y!} - ${c.constant('AT', at, 'value at calibration')}))`;
    c.line(`if (!(${factor} > (LN_REAL)${LEAST_SHARE})) return LN_BAD;`);
    c.line(`x = x / ${factor};`);
  },
});
