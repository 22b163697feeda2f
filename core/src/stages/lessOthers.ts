import { Type } from 'typebox';
import { idsIn, overStage } from '../stage/overStage.ts';
import { channelIds, number, numbers } from '../stage/params.ts';

/**
 * A reading with what other channels' quantities add to it taken off: a sum of all readings, each by a weight of its own. The
 * weights are a row of the inverse of the matrix that says what each channel answers to each quantity
 * (`calibrate/crossAnswers.ts`).
 */
export const lessOthers = overStage<{ channels: string; own: number; weights: number[] }>({
  kind: 'less-others',
  title: 'Cross-sensitivity correction',
  summary: 'Subtracts the response to the quantities of other channels',
  params: Type.Object({
    channels: channelIds('Other channels', 15),
    own: number('Weight of this channel’s reading'),
    weights: numbers('Weight of each other channel’s reading', 0, 15),
  }),
  defaults: { channels: '', own: 1, weights: [] },
  channels: ({ channels }) => idsIn(channels),
  takes: (_params, own, others) => others.every((unit) => unit === own),
  inWords: 'other channels in its own unit',
  combine({ channels, own, weights }) {
    const count = idsIn(channels).length;
    if (count !== weights.length)
      throw new RangeError(
        `Cross-sensitivity correction: enter one weight for each other channel; received ${weights.length} for ${count}. Choose the channels first.`,
      );
    return (x, others) => others.reduce((sum, y, k) => sum + weights[k]! * y, own * x);
  },
  emitC({ own, weights }, c, others) {
    c.line(`x = ${c.constant('OWN', own, '')} * x;`);
    others.forEach((y, k) => c.line(`x += ${c.constant(`WEIGHT_${k + 1}`, weights[k]!, '')} * ${y};`));
  },
});
