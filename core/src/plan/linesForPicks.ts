import type { Channel } from '../model/gadget.ts';
import type { LineSpec } from '../model/line.ts';
import { boardOf, type GadgetPlan, type Sensing } from './gadgetPlan.ts';
import { digitiserOf, lineForSensor } from './sensorLine.ts';

/**
 * The channels as the picks want them: a channel without a line gets that of its sensor; one that has a converter stage gets
 * the bits and the reference of what converts it now. All else of a line is the maker's and stays.
 */
export function linesForPicks(plan: GadgetPlan): Channel[] {
  return plan.gadget.channels.map((channel) => {
    const sensing = plan.sensing.find((s) => s.ask.id === channel.askId);
    // What goes on from another channel has its sensor's line before it already.
    if (!sensing?.part || channel.feed) return channel;
    if (channel.line.stages.length === 0) return { ...channel, line: sensorLine(plan, sensing, channel) };
    const digitiser = digitiserOf(sensing.part, boardOf(plan), sensing.converter);
    if (!digitiser || sensing.part.signal === 'bridge') return channel;
    const stages = channel.line.stages.map((s) =>
      s.kind === 'adc'
        ? { ...s, params: { ...s.params, bits: digitiser.bits, referenceV: digitiser.fullScaleV } }
        : s,
    );
    return { ...channel, line: { ...channel.line, stages } };
  });
}

/** The channels of one ask with the picked sensor's own line, as bought, in place of what they have. */
export function withSensorLines(plan: GadgetPlan, askId: string): Channel[] {
  const sensing = plan.sensing.find((s) => s.ask.id === askId);
  return plan.gadget.channels.map((channel) =>
    channel.askId === askId && sensing?.part && !channel.feed
      ? { ...channel, line: sensorLine(plan, sensing, channel) }
      : channel,
  );
}

/** The sensor's line; raw columns that a link sends already keep their names. */
function sensorLine(plan: GadgetPlan, { part, converter }: Sensing, channel: Channel): LineSpec {
  const line = lineForSensor(part!, boardOf(plan), converter, channel.id);
  const present = channel.line.sources;
  return present.length === line.sources.length
    ? { ...line, sources: line.sources.map((s, i) => ({ ...s, column: present[i]!.column })) }
    : line;
}
