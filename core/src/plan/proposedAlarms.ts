import { compileLine, invertLine } from '../line/index.ts';
import type { AlarmRule } from '../model/alarm.ts';
import type { Channel, Gadget } from '../model/gadget.ts';
import { LineError } from '../stage/contract.ts';
import { UNITS } from '../units/index.ts';
import { alarmUnit } from './alarms.ts';
import { briefFor } from './briefFor.ts';
import { rangeIn } from './rangeIn.ts';
import { shownFigure } from './shown.ts';
import { wholeLine } from './wholeLine.ts';

type Given = Pick<AlarmRule, 'id' | 'name' | 'kind' | 'why'> & Partial<AlarmRule>;

/** Readings between two of which a link counts as silent, and the least, s. */
const SILENT_READINGS = 20;
const SILENT_S = 10;

/** A reading whose noise moves its last digit all the time, and has not for so long, is stuck, s. */
const STUCK_S = 300;
/** Stages that begin with a converter, in whose codes there is noise; counts and intervals may stand still for hours. */
const CONVERTED = new Set(['adc', 'bridge', 'vector-correction']);
/** What these give stands still between events. */
const EVENTS = new Set(['beat-rate', 'period-rate']);

/**
 * Alarms to begin with: what the family calls for with the reason for each level, faults of every sensor, and a gadget that has
 * stopped speaking. On an ordinary day of the gadget none of them sounds.
 */
export function proposedAlarms(gadget: Gadget): AlarmRule[] {
  const own = gadget.channels.flatMap((channel) => levelsOf(gadget, channel));
  const sources = new Set<string>();
  const faults = gadget.channels.flatMap((channel): AlarmRule[] => {
    // Channels of the same columns have the same sensor: one alarm tells of it.
    const columns = channel.line.sources.map((s) => s.column).join();
    if (channel.feed || sources.has(columns) || endsInBrief(gadget, channel)) return [];
    sources.add(columns);
    return made(gadget, channel, {
      id: `fault-${channel.id}`,
      name: `${channel.name}: sensor fault`,
      kind: 'fault',
      windowS: neverStands(channel) ? STUCK_S : 0,
      n: 3,
      m: 5,
      lamp: 'amber',
      why: `An open, shorted or missing sensor must never look like a normal reading${neverStands(channel) ? `, and neither must one that has not changed for ${STUCK_S / 60} minutes, because noise always moves this reading` : ''}.`,
    });
  });
  const [first] = gadget.channels;
  const seconds = Math.max(SILENT_S, Math.ceil(SILENT_READINGS / gadget.sampleRateHz));
  const silent = made(gadget, first!, {
    id: 'silent',
    name: 'No readings',
    kind: 'silent',
    windowS: seconds,
    lamp: 'amber',
    why: `If no readings arrive for ${seconds} s, nothing is being monitored.`,
  });
  return [...own, ...faults, ...silent];
}

function levelsOf(gadget: Gadget, channel: Channel): AlarmRule[] {
  const { watches = [] } = channel;
  const unit = alarmUnit(gadget, channel, null);
  const found: Given[] = [];
  for (const watch of watches) {
    const { level, hysteresis } = watch.params as { level?: number; hysteresis?: number };
    // A level that the brief counts the time above of a gas is what nobody should breathe.
    if (watch.kind === 'beyond' && watch.params['side'] === 'above' && unit === 'ppm' && level)
      found.push({
        id: `high-${channel.id}`,
        name: `${channel.name} high`,
        kind: 'high',
        caution: rounded(0.6 * level),
        limit: level,
        hysteresis: hysteresis ?? 0.1 * level,
        minimumOnS: 10,
        n: 2,
        m: 3,
        sounder: 'beeps',
        why: `The limit is the level set as too high, ${level} ppm; a caution at six tenths of it leaves time to ventilate. Your local code sets what is allowed.`,
      });
    if (watch.kind === 'sector') {
      const { fromDeg, toDeg, hysteresisDeg } = watch.params as Record<string, number>;
      found.push({
        id: `sector-${channel.id}`,
        name: watch.name,
        kind: 'sector',
        from: fromDeg!,
        to: toDeg!,
        hysteresis: hysteresisDeg ?? 5,
        n: 5,
        m: 10,
        lamp: 'amber',
        sounder: 'none',
        why: 'The sector that this gadget was built to detect. Lamp only, because wind from there is not dangerous.',
      });
    }
  }
  if (gadget.template === 'cell-bench' && unit === 'V') {
    const cutOff = gadget.channels
      .flatMap((c) => c.figures ?? [])
      .find((f) => f.kind === 'capacity' && f.others.includes(channel.id))?.params['cutOffV'];
    if (typeof cutOff === 'number')
      found.push({
        id: `low-${channel.id}`,
        name: 'Cell at cutoff voltage',
        kind: 'low',
        caution: rounded(cutOff + 0.2),
        limit: cutOff,
        from: 1,
        hysteresis: 0.1,
        n: 2,
        m: 3,
        latch: true,
        sounder: 'steady',
        why: `Below ${cutOff} V, a cell of this chemistry is damaged; below 1 V, the slot is empty or the cell is in backwards.`,
      });
  }
  if (gadget.template === 'ac-power' && unit === 'V')
    found.push(
      {
        id: `low-${channel.id}`,
        name: 'Brown-out',
        kind: 'low',
        caution: 22.5,
        limit: 21,
        from: 10,
        hysteresis: 0.5,
        n: 3,
        m: 5,
        sounder: 'beeps',
        why: 'An eighth below 24 V, motors stall and lamps dim. Below 10 V, the wheel is stopping, which is not a fault.',
      },
      {
        id: `over-${channel.id}`,
        name: 'Voltage high',
        kind: 'high',
        caution: 26.5,
        limit: 28,
        hysteresis: 0.5,
        n: 2,
        m: 3,
        sounder: 'steady',
        why: '24 V lamps burn out at a sixth above their voltage.',
      },
    );
  if (gadget.template === 'ac-power' && unit === 'Hz')
    found.push({
      id: `over-${channel.id}`,
      name: 'Overspeed',
      kind: 'high',
      caution: 52,
      limit: 58,
      hysteresis: 1,
      n: 2,
      m: 3,
      latch: true,
      sounder: 'steady',
      why: 'The wheel overspeeds when it loses its load; its normal speed gives 43 Hz.',
    });
  if (gadget.template === 'several-temperatures' && unit === 'degC') {
    const target = gadget.channels.flatMap((c) => c.figures ?? []).find((f) => f.kind === 'time-to-target')
      ?.params['target'];
    const limit = typeof target === 'number' ? target + 10 : 90;
    found.push({
      id: `high-${channel.id}`,
      name: `${channel.name} overheats`,
      kind: 'high',
      caution: limit - 5,
      limit,
      hysteresis: 1.5,
      minimumOnS: 3,
      n: 3,
      m: 5,
      sounder: 'beeps',
      why: `Ten degrees above the target of ${limit - 10} °C.`,
    });
  }
  if (gadget.template === 'beat-rate' && unit === 'perMin')
    found.push({
      id: `low-${channel.id}`,
      name: 'Clock stopped',
      kind: 'low',
      limit: 30,
      hysteresis: 10,
      n: 3,
      m: 3,
      lamp: 'amber',
      why: 'A pendulum with a period of two seconds gives 60 beats per minute; below half of that, the clock has stopped.',
    });
  if (gadget.template === 'rotation' && unit === 'rpm') {
    const high = gadget.brief?.asks.find((a) => a.id === channel.askId)?.high ?? 240;
    found.push({
      id: `over-${channel.id}`,
      name: 'Overspeed',
      kind: 'high',
      caution: rounded(0.85 * high),
      limit: rounded(0.95 * high),
      hysteresis: rounded(0.03 * high),
      n: 2,
      m: 3,
      latch: true,
      sounder: 'steady',
      why: `Just below the ${high} rpm in the brief: a millstone that overspeeds can burst.`,
    });
  }
  const shown = shownFigure(channel);
  if (gadget.template === 'impact-peak' && shown) {
    const high = gadget.brief?.asks.find((a) => a.id === channel.askId)?.high ?? 1600;
    found.push({
      id: `over-${channel.id}`,
      name: 'Impact too hard',
      kind: 'high',
      figureId: shown.id,
      limit: high,
      hysteresis: rounded(0.05 * high),
      minimumOnS: 3,
      sounder: 'beeps',
      why: `The brief requires impacts up to ${high} ${UNITS[alarmUnit(gadget, channel, shown.id) ?? 'N'].symbol}; harder ones bend the load cell.`,
    });
  }
  return found.flatMap((rule) => made(gadget, channel, rule));
}

/** Whether noise moves its readings all the time. */
const neverStands = ({ line }: Channel): boolean =>
  CONVERTED.has(line.stages[0]?.kind ?? '') && !line.stages.some((s) => EVENTS.has(s.kind));

/** Whether an end of the converter is a state that the brief asks for: an empty slot at 0 V, a lamp that is off. */
function endsInBrief(gadget: Gadget, channel: Channel): boolean {
  if (channel.line.stages.some((s) => s.kind === 'absorbance')) return true;
  // What is cut off and has a word of its own is no fault.
  if (channel.states?.some((s) => s.cutOff)) return true;
  const brief = briefFor(gadget, channel);
  try {
    const line = compileLine(wholeLine(gadget, channel, []), { sampleRateHz: gadget.sampleRateHz });
    const range = brief && rangeIn(brief, line.outputs[0]!.unit);
    if (!range || !line.stages.some((s) => s.spec.kind === 'adc')) return false;
    const codes = [range.low, range.high].map((v) => invertLine(line, v)[0]!);
    return Math.min(...codes) < 1;
  } catch (error) {
    if (error instanceof LineError || error instanceof RangeError) return false;
    throw error;
  }
}

const rounded = (v: number) => Number(v.toPrecision(2));

/** A rule with what is usual where nothing else is said; none where the channel gives no unit. */
function made(gadget: Gadget, channel: Channel, given: Given): AlarmRule[] {
  const unit = given.unit ?? alarmUnit(gadget, channel, given.figureId ?? null);
  if (unit === null && given.kind !== 'fault' && given.kind !== 'silent') return [];
  return [
    {
      channelId: channel.id,
      figureId: null,
      unit: unit ?? 'count',
      caution: null,
      limit: null,
      from: null,
      to: null,
      hysteresis: 0,
      windowS: 0,
      n: 1,
      m: 1,
      minimumOnS: 0,
      latch: false,
      lamp: 'red',
      sounder: 'none',
      ...given,
    },
  ];
}
