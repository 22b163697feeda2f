import {
  absorbanceAt,
  captureUncertainty,
  judgeLamps,
  lampAtRest,
  lampOf,
  lampsOf,
  withLampLight,
} from '@lucky-needle/core/calibrate';
import type { Channel, Gadget, LampLight, NewLampLight } from '@lucky-needle/core/model';
import { printNominal } from '@lucky-needle/core/units';
import type { LiveBench } from '../capture/liveBench.ts';
import { notFound, ProblemError } from '../http/problem.ts';
import type { Bench } from './bench.ts';
import { columnAtRest } from './columnAtRest.ts';
import type { PatchChannels } from './gadgets.ts';
import { heardNow } from './heardNow.ts';
import { shownReady } from './shownReady.ts';

/** How far back a lamp is looked at, in windows. */
const LOOKED_BACK = 2;

/** Dark and blank of all lamps that shine through one glass: seen standing still, and put in all lines, or in none. */
export function lampLightService(bench: Bench, patch: PatchChannels) {
  const { tables } = bench;
  const shown = shownReady<LampLight>();

  async function look(gadgetId: string): Promise<{ gadget: Gadget; now: LampLight }> {
    const gadget = await tables.gadgets.find(gadgetId);
    if (!gadget) throw notFound('gadget', gadgetId);
    const lamps = lampsOf(gadget.channels);
    const live = heardNow(bench, gadgetId);
    const seen = lamps.map((lamp) =>
      typeof live === 'string' ? UNSEEN(live) : lampNow(lamp, live, gadget.sampleRateHz),
    );
    const counts = seen.map((s) => s.counts);
    const isSeen = lamps.length > 0 && counts.every((c) => c !== null);
    const judged = isSeen ? judgeLamps(lamps, counts) : null;
    const waits =
      lamps.length === 0
        ? 'No channel measures absorbance.'
        : (seen.find((s) => s.waitingFor)?.waitingFor ?? null);
    return {
      gadget,
      now: {
        lamps: lamps.map((lamp, i) => ({
          channelId: lamp.id,
          counts: counts[i]!,
          absorbance: counts[i] === null ? null : absorbanceAt(lamp, counts[i]!, seen[i]!.u),
          trouble: judged?.trouble[i] ?? null,
        })),
        notDark: judged?.notDark ?? waits,
        notBlank: judged?.notBlank ?? waits,
      },
    };
  }

  return {
    async look(gadgetId: string): Promise<LampLight> {
      const { now } = await look(gadgetId);
      if (now.notDark === null || now.notBlank === null) shown.show(gadgetId, now);
      return now;
    },

    /**
     * Puts what all lamps give, as it was just shown or as it is now, in all lines that read them.
     * @throws {ProblemError} where it is no dark, or no blank
     */
    async keep(gadgetId: string, { as }: NewLampLight): Promise<Gadget> {
      const { gadget, now } = await look(gadgetId);
      const whyNot = (light: LampLight) => (as === 'dark' ? light.notDark : light.notBlank);
      const isHeard = typeof heardNow(bench, gadgetId) !== 'string';
      const lamps = lampsOf(gadget.channels);
      const countsOf = (light: LampLight, { id }: Channel) =>
        light.lamps.find((l) => l.channelId === id)?.counts ?? null;
      const kept = [isHeard ? shown.of(gadgetId) : null, now].find(
        (l) => l && whyNot(l) === null && lamps.every((lamp) => countsOf(l, lamp) !== null),
      );
      if (!kept)
        throw new ProblemError(
          422,
          'cannot-keep',
          `Not captured as ${as}`,
          whyNot(now)!,
          as === 'dark'
            ? 'Switch the lamps off and close the lid.'
            : 'Put clear water in the cuvette, switch the lamps on and close the lid.',
          'as',
        );
      const byColumn = new Map(lamps.map((lamp) => [lampOf(lamp), countsOf(kept, lamp)!] as const));
      const channels = withLampLight(gadget.channels, as, byColumn);
      const saved = await patch(gadgetId, String(gadget.version), { channels });
      shown.answered(gadgetId);
      const told = kept.lamps.map((l) => printNominal(l.counts!, 5)).join(', ');
      await tables.logbook.write(
        gadgetId,
        'true-up',
        `Captured the ${as} of ${kept.lamps.length} lamps: ${told} counts.`,
      );
      return saved;
    },
  };
}

interface LampNow {
  readonly counts: number | null;
  /** Standard uncertainty of the counts. */
  readonly u: number;
  readonly waitingFor: string | null;
}

const UNSEEN = (waitingFor: string): LampNow => ({ counts: null, u: Number.NaN, waitingFor });

/** Mean of a lamp's newest counts, and why it does not stand still. */
function lampNow(lamp: Channel, live: LiveBench, asked: number): LampNow {
  const limitsAt = (counts: number) => lampAtRest(lamp, counts, live.sampleRateHz ?? asked);
  const seen = columnAtRest(live, lampOf(lamp), LOOKED_BACK * limitsAt(0).windowS, limitsAt);
  if (!seen) return UNSEEN(`${lamp.name}: no readings from its raw column.`);
  const { steady, capture, waitingFor } = seen;
  return {
    counts: capture?.mean ?? null,
    u: capture ? captureUncertainty(capture) : Number.NaN,
    waitingFor: steady ? null : `${lamp.name}: ${waitingFor ?? 'not steady yet.'}`,
  };
}
