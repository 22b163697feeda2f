import { randomUUID } from 'node:crypto';
import { cleanAirLevel, crossAnswers, evidenceInWords, type Exposure } from '@lucky-needle/core/calibrate';
import type {
  Channel,
  EvidencePoint,
  Gadget,
  NewCrossTalk,
  NewExposure,
  StageSpec,
} from '@lucky-needle/core/model';
import { lowerBound, mean } from '@lucky-needle/core/numerics';
import { briefFor, toleranceIn } from '@lucky-needle/core/plan';
import { referenceValue } from '@lucky-needle/core/references';
import { convertDifference, convertUnit, printNominal, UNITS, type UnitId } from '@lucky-needle/core/units';
import type { LiveBench } from '../capture/liveBench.ts';
import { feltId } from '../capture/liveSpec.ts';
import { ProblemError, notFound } from '../http/problem.ts';
import type { Bench } from './bench.ts';
import type { PatchChannels } from './gadgets.ts';
import { heardNow } from './heardNow.ts';

/** What every channel reads is taken over so long, s. */
const TAKEN_S = 10;
/** Readings that are looked at for it, of the fastest link. */
const MOST_READINGS = 50_000;
/** The stage that takes the others' share off. */
const KIND = 'less-others';

/** What channels of a kind answer to each other's quantities: exposures one at a time, and the others' share taken off. */
export function crossTalkService(bench: Bench, patch: PatchChannels) {
  const { tables } = bench;

  async function gadgetOf(id: string): Promise<Gadget> {
    const gadget = await tables.gadgets.find(id);
    if (!gadget) throw notFound('gadget', id);
    return gadget;
  }

  return {
    /** Keeps what all channels that end in the same unit read now. @throws {ProblemError} where that means nothing */
    async expose(gadgetId: string, { channelId, reference }: NewExposure): Promise<EvidencePoint> {
      const gadget = await gadgetOf(gadgetId);
      const channel = gadget.channels.find((c) => c.id === channelId);
      if (!channel) throw notFound('channel', channelId);
      const live = heardNow(bench, gadgetId);
      if (typeof live === 'string')
        throw refuse(live, 'Set up a link on the Link page, or connect the gadget.');
      const unit = live.lineOf(channelId)?.outputs[0]?.unit;
      if (!unit) throw refuse(`${channel.name} has no readings.`, 'Check its signal line on the Line page.');
      const worth = worthOf(reference, unit);
      const tolerance = toleranceIn(briefFor(gadget, channel), unit);
      const alike = gadget.channels.filter((c) => live.lineOf(c.id)?.outputs[0]?.unit === unit);
      if (alike.length < 2)
        throw refuse(
          `No other channel measures in ${UNITS[unit].name}.`,
          'There is no other sensor to check for cross-sensitivity.',
        );
      const readings = alike.map((c) => ({
        channelId: c.id,
        ...standing(live, c),
        clean: cleanAirLevel(c.line, { sampleRateHz: gadget.sampleRateHz }),
      }));
      const own = readings.find((r) => r.channelId === channelId)!;
      const off = own.mean - worth.value;
      if (Math.abs(off) > Math.hypot(worth.uncertainty, 2 * own.u) + (tolerance ?? 0))
        throw refuse(
          `${channel.name} reads ${printNominal(own.mean, 3)} where the actual level is ${printNominal(worth.value, 3)} ${UNITS[unit].symbol}.`,
          'Calibrate it first: the responses of the other sensors are calculated relative to it.',
        );
      const point: EvidencePoint = {
        id: randomUUID(),
        channelId,
        excluded: null,
        keptAt: bench.now(),
        evidence: {
          kind: 'exposure',
          title: worth.title,
          of: channelId,
          dose: worth.value,
          uncertainty: worth.uncertainty,
          unit,
          readings,
        },
      };
      await tables.evidence.insert(gadgetId, point);
      await tables.logbook.write(
        gadgetId,
        'true-up',
        `${channel.name}: captured an exposure. ${evidenceInWords(point.evidence)}.`,
        point.keptAt,
      );
      bench.changed(gadgetId, 'evidence');
      return point;
    },

    /** Every channel reads what is left when the others' share is taken off: all of them, or none. */
    async use(gadgetId: string, { channelIds, typed }: NewCrossTalk): Promise<Gadget> {
      const gadget = await gadgetOf(gadgetId);
      const nameOf = (id: string) => {
        const found = gadget.channels.find((c) => c.id === id);
        if (!found) throw notFound('channel', id);
        return found.name;
      };
      const exposures = (await tables.evidence.list(gadgetId))
        .filter((e) => e.excluded === null)
        .flatMap((e): Exposure[] => (e.evidence.kind === 'exposure' ? [e.evidence] : []));
      const names = channelIds.map(nameOf);
      const { answers, weights, doubts, problem } = crossAnswers(channelIds, exposures, typed);
      if (problem === 'missing') {
        const missing = names.filter((_, j) => answers.some((row) => Number.isNaN(row[j]!)));
        throw refuse(
          `The cross-sensitivity to ${missing.join(', ')} is unknown.`,
          'Expose the sensors to each gas on its own, or enter published values.',
        );
      }
      if (!weights || !doubts)
        throw refuse(
          'With these cross-sensitivities, the gases cannot be separated.',
          'Check the captured exposures, or choose sensors that respond more strongly to their own gas.',
        );
      const channels = gadget.channels.map((channel) => {
        const i = channelIds.indexOf(channel.id);
        return i < 0 ? channel : withStage(channel, lessOthers(channelIds, i, weights[i]!, doubts[i]!));
      });
      const saved = await patch(gadgetId, String(gadget.version), { channels });
      await tables.logbook.write(
        gadgetId,
        'true-up',
        `${names.join(', ')}: now corrected for cross-sensitivity. ${names.map((name, i) => `${name}: ${weights[i]!.map((w) => printNominal(w, 3)).join(', ')}`).join('; ')}.`,
      );
      return saved;
    },
  };
}

const refuse = (detail: string, wayOut: string) =>
  new ProblemError(422, 'cannot-keep', 'Exposure not captured', detail, wayOut, 'channelId');

function worthOf(reference: NewExposure['reference'], unit: UnitId) {
  try {
    const worth = referenceValue(reference, unit);
    const value = convertUnit(worth.value, worth.unit, unit);
    if (!(value > 0))
      throw refuse('The level is 0.', 'Fill the box with a known amount of this gas and nothing else.');
    return { title: worth.title, value, uncertainty: convertDifference(worth.uncertainty, worth.unit, unit) };
  } catch (error) {
    if (error instanceof RangeError) throw refuse(error.message, 'Correct the reference.');
    throw error;
  }
}

/** What a channel feels, whatever is taken off it, if it stands still: the two halves of what is looked at agree, as far as its noise lets them. */
function standing(live: LiveBench, { id: channelId, name }: Channel): { mean: number; u: number } {
  const id = live.lineOf(feltId(channelId)) ? feltId(channelId) : channelId;
  const newestS = live.newest(id)?.timeS ?? Number.NaN;
  const { statistics } = live.stretch(id, newestS - TAKEN_S, newestS);
  const kept = live.newestReadings(id, MOST_READINGS);
  const from = kept ? lowerBound(kept.times, newestS - TAKEN_S) : 0;
  const values = kept ? Array.from(kept.values.subarray(from)).filter(Number.isFinite) : [];
  if (!statistics || values.length < 6 || statistics.seconds < 0.7 * TAKEN_S)
    throw refuse(
      `${name} does not have ${TAKEN_S} s of readings yet.`,
      'Wait until the sensor is warm and readings arrive.',
    );
  const half = values.length >> 1;
  const [before, after] = [mean(values.slice(0, half)), mean(values.slice(-half))];
  // From one reading to the next: what creeps does not count as noise.
  const steps = values.slice(1).map((v, i) => v - values[i]!);
  const noise = Math.sqrt(mean(steps.map((d) => d * d)) / 2);
  const moved = Math.abs(after - before);
  if (moved > 4 * noise * Math.sqrt(2 / half) + 0.01 * Math.abs(statistics.mean))
    throw refuse(
      `${name} is still changing: ${printNominal(before, 4)}, then ${printNominal(after, 4)}.`,
      'Wait until all readings are steady.',
    );
  return { mean: statistics.mean, u: Math.max(statistics.u, moved / 2) };
}

/** The stage stands last, and in the place of one that was there before. */
function withStage(channel: Channel, stage: Omit<StageSpec, 'id'>): Channel {
  const stages = channel.line.stages.filter((s) => s.kind !== KIND);
  const taken = new Set(stages.map((s) => s.id));
  let id = KIND;
  for (let n = 2; taken.has(id); n++) id = `${KIND}-${n}`;
  return { ...channel, line: { ...channel.line, stages: [...stages, { id, ...stage }] } };
}

/** No answer is known to a millionth: a maker can read so many digits. */
const inShort = (v: number) => Number(v.toPrecision(6));

function lessOthers(
  channelIds: readonly string[],
  i: number,
  weights: readonly number[],
  doubts: readonly number[],
): Omit<StageSpec, 'id'> {
  const others = channelIds.map((_, k) => k).filter((k) => k !== i);
  return {
    kind: KIND,
    params: {
      channels: others.map((k) => channelIds[k]!).join(' '),
      own: inShort(weights[i]!),
      weights: others.map((k) => inShort(weights[k]!)),
    },
    uncertainty: {
      own: inShort(doubts[i]!),
      ...Object.fromEntries(others.map((k, n) => [`weights.${n}`, inShort(doubts[k]!)])),
    },
    off: false,
  };
}
