import { cleanAirLevel, heatedElements, steadyLimits } from '@lucky-needle/core/calibrate';
import { compileLine, LineError } from '@lucky-needle/core/line';
import type { AiringNow, Calibration, Capture, Channel, Gadget, NewAiring } from '@lucky-needle/core/model';
import { briefFor, shelfWith, toleranceIn, warmUpFor } from '@lucky-needle/core/plan';
import type { LiveBench } from '../capture/liveBench.ts';
import { notFound, ProblemError } from '../http/problem.ts';
import type { Bench } from './bench.ts';
import { columnAtRest } from './columnAtRest.ts';
import { heardNow } from './heardNow.ts';
import { shownReady } from './shownReady.ts';
import type { TrueUp } from './trueUp.ts';

/** How far back a steady window is looked for, s. */
const LOOKED_BACK_S = 20;

interface Looked {
  readonly now: AiringNow;
  /** What would be kept, one for each element; null while they wait. */
  readonly found: readonly { channelId: string; capture: Capture; level: number }[] | null;
}

/** One airing for all heated elements of a gadget: each is seen standing still in clean air, and all of them are kept, or none. */
export function airingService(bench: Bench, trueUp: TrueUp) {
  const { tables } = bench;
  const shown = shownReady<NonNullable<Looked['found']>>();

  async function look(gadgetId: string): Promise<Looked> {
    const gadget = await tables.gadgets.find(gadgetId);
    if (!gadget) throw notFound('gadget', gadgetId);
    const elements = heatedElements(gadget.channels);
    const live = heardNow(bench, gadgetId);
    const parts = shelfWith((await tables.parts.list()).map((o) => o.part));
    const asks = elements.map((c) => c.askId);
    const { isKnown, seconds } = warmUpFor(gadget, asks, parts);
    const coldS = typeof live === 'string' ? seconds : Math.max(0, seconds - live.newestS);
    const seen = elements.map((c) => elementNow(gadget, c, typeof live === 'string' ? null : live));
    const waits = seen.find((s) => s.waitingFor !== null);
    const waitingFor =
      elements.length === 0
        ? 'No channel uses a heated gas sensor.'
        : typeof live === 'string'
          ? live
          : coldS > 0
            ? `Still warming up: ${Math.ceil(coldS)} s left.`
            : waits
              ? `${waits.name}: ${waits.waitingFor}`
              : null;
    return {
      now: {
        waitingFor,
        coldS: isKnown ? coldS : null,
        elements: seen.map(({ channelId, capture, level }) => ({
          channelId,
          counts: capture?.mean ?? null,
          level,
        })),
      },
      found:
        waitingFor === null
          ? seen.map(({ channelId, capture, level }) => ({ channelId, capture: capture!, level: level! }))
          : null,
    };
  }

  return {
    async look(gadgetId: string): Promise<AiringNow> {
      const { now, found } = await look(gadgetId);
      if (found) shown.show(gadgetId, found);
      return now;
    },

    /**
     * Keeps a point of each element as it was just shown or as it stands now, and puts its baseline in use.
     * @throws {ProblemError} while they wait
     */
    async keep(gadgetId: string, { within }: NewAiring): Promise<{ items: Calibration[] }> {
      const { now, found: standing } = await look(gadgetId);
      const isHeard = typeof heardNow(bench, gadgetId) !== 'string';
      const found = (isHeard ? shown.of(gadgetId) : null) ?? standing;
      if (!found)
        throw new ProblemError(
          422,
          'cannot-keep',
          'Clean air not captured',
          now.waitingFor!,
          'Wait until all sensors are warm and steady in clean air.',
        );
      const kept = await trueUp.calibrateAll(gadgetId, {
        points: found.map(({ channelId, capture, level }) => ({
          channelId,
          role: 'fit',
          reference: { kind: 'clean-air', ppm: level, within: within * level },
          capture,
        })),
        fit: 'clean-air-baseline',
        note: 'clean air',
      });
      shown.answered(gadgetId);
      return kept;
    },
  };
}

interface ElementNow {
  readonly channelId: string;
  readonly name: string;
  readonly level: number | null;
  readonly capture: Capture | null;
  readonly waitingFor: string | null;
}

/** Whether an element stands still, as its brief wants it. */
function elementNow(gadget: Gadget, channel: Channel, live: LiveBench | null): ElementNow {
  const { id, name, line: spec } = channel;
  const context = { sampleRateHz: live?.sampleRateHz ?? gadget.sampleRateHz };
  const level = cleanAirLevel(spec, context);
  const element = { channelId: id, name, level, capture: null };
  if (level === null) return { ...element, waitingFor: 'the sensor curve gives no level for clean air.' };
  try {
    const line = compileLine(spec, context);
    const tolerance = toleranceIn(briefFor(gadget, channel), line.outputs[0]!.unit) ?? level;
    const seen =
      live &&
      columnAtRest(live, spec.sources[0]!.column, LOOKED_BACK_S, (raw) => steadyLimits(line, raw, tolerance));
    if (!seen) return { ...element, waitingFor: 'no readings from its raw column.' };
    const { steady, capture, waitingFor } = seen;
    return { ...element, capture, waitingFor: steady && capture ? null : (waitingFor ?? 'not steady yet.') };
  } catch (error) {
    if (error instanceof LineError) return { ...element, waitingFor: error.message };
    throw error;
  }
}
