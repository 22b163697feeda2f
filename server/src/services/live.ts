import type {
  AlarmRule,
  AlarmSilence,
  Calibration,
  Frames,
  Gadget,
  GadgetAlarms,
  LiveStretch,
  NowReading,
  Part,
} from '@lucky-needle/core/model';
import { SPECTRUM_OF } from '@lucky-needle/core/face';
import { rawColumns, seenEvent, shelfWith } from '@lucky-needle/core/plan';
import type { LinkRunner } from '../capture/linkRunner.ts';
import { LiveBench } from '../capture/liveBench.ts';
import { liveSpec } from '../capture/liveSpec.ts';
import { WatchError } from '@lucky-needle/core/detect';
import { notFound, ProblemError } from '../http/problem.ts';
import type { Bench } from './bench.ts';
import { nowReading, type Heard } from './nowReading.ts';
import { channelsBySpectrum, shownSpectra } from './shownSpectra.ts';

/** What linked gadgets read right now, taken from their live benches. */
export function liveService(bench: Bench) {
  const { tables } = bench;

  async function gadgetOf(id: string): Promise<Gadget> {
    const gadget = await tables.gadgets.find(id);
    if (!gadget) throw notFound('gadget', id);
    return gadget;
  }

  function runnerOf(gadgetId: string) {
    const runner = bench.links.of(gadgetId);
    if (runner) return runner;
    throw new ProblemError(
      404,
      'no-link',
      'No link',
      'This gadget has no link.',
      'Set one up on the Link page.',
    );
  }

  /** A recording keeps a press as a mark of the watch's name, so that it is counted there as well. */
  async function keepPress(runner: LinkRunner, channelId: string, watchId: string, timeS: number) {
    const running = runner.recorder?.recording;
    const channel = runner.gadget?.channels.find((c) => c.id === channelId);
    const text = channel?.watches?.find((w) => w.id === watchId)?.name;
    if (running && text !== undefined) await tables.recordings.addMarker(running.id, { timeS, text });
  }

  async function now(gadgetId: string): Promise<{ channels: NowReading[] }> {
    const gadget = await gadgetOf(gadgetId);
    const [calibrations, points, own] = await Promise.all([
      tables.calibrations.list(gadgetId),
      tables.points.list(gadgetId),
      tables.parts.list(),
    ]);
    const shelf = shelfWith(own.map((o) => o.part));
    const runner = bench.links.of(gadgetId);
    const silent = silentOf(runner);
    const live = runner?.live ?? neverHeard(gadget, calibrations, shelf);
    return {
      channels: gadget.channels.map((channel) =>
        nowReading(gadget, channel, { calibrations, points, shelf }, heardOf(live, channel.id, silent)),
      ),
    };
  }

  return {
    now,

    /** The gadget as its face shows it now: readings, figures, alarms, and what was seen. */
    async face(gadgetId: string): Promise<Frames> {
      const gadget = await gadgetOf(gadgetId);
      const { channels } = await now(gadgetId);
      const runner = bench.links.of(gadgetId);
      const live = runner?.live ?? null;
      const alarms = live?.alarms.now ?? unlinked(gadget.alarms ?? []);
      return {
        frames: [
          {
            timeS: live && Number.isFinite(live.newestS) ? live.newestS : 0,
            silent: silentOf(runner),
            channels,
            alarms: alarms.items,
            spectra: shownSpectra(
              channelsBySpectrum(gadget),
              (id) => live?.newestReadings(id, SPECTRUM_OF) ?? null,
            ),
          },
        ],
        events: gadget.channels.map(({ id }) => ({
          channelId: id,
          events: (live?.recentEvents(id) ?? []).map(seenEvent),
        })),
      };
    },

    /** A button of the bench is pressed: an event now, on the gadget's clock. */
    async press(gadgetId: string, channelId: string, watchId: string): Promise<{ timeS: number }> {
      const runner = runnerOf(gadgetId);
      try {
        const timeS = runner.press(channelId, watchId);
        await keepPress(runner, channelId, watchId, timeS);
        return { timeS };
      } catch (error) {
        if (!(error instanceof WatchError)) throw error;
        throw new ProblemError(
          404,
          'no-button',
          'Not found',
          `${error.message} Event: "${watchId}" on channel "${channelId}".`,
          'See the events on the Line page.',
        );
      }
    },

    /** How the alarms stand; all unknown without a link. */
    async alarms(gadgetId: string): Promise<GadgetAlarms> {
      const { alarms = [] } = await gadgetOf(gadgetId);
      return bench.links.of(gadgetId)?.live.alarms.now ?? unlinked(alarms);
    },

    /** Somebody has seen an alarm: what its latch holds lets go, and its sounder is quiet. */
    seeAlarm(gadgetId: string, ruleId: string): Promise<GadgetAlarms> {
      const { alarms } = runnerOf(gadgetId).live;
      if (!alarms.see(ruleId)) throw notFound('alarm', ruleId);
      return Promise.resolve(alarms.now);
    },

    /** All sounders are quiet for so long; what comes or goes up meanwhile sounds. */
    silenceAlarms(gadgetId: string, { seconds }: AlarmSilence): Promise<GadgetAlarms> {
      const { alarms } = runnerOf(gadgetId).live;
      alarms.silence(seconds);
      return Promise.resolve(alarms.now);
    },

    /** The figures of a channel begin anew. */
    reset(gadgetId: string, channelId: string): Promise<void> {
      runnerOf(gadgetId).live.reset(channelId);
      return Promise.resolve();
    },

    /** Mean and scatter of the live readings of a channel between two moments of the gadget's clock. */
    async stretch(gadgetId: string, channelId: string, fromS: number, toS: number): Promise<LiveStretch> {
      const runner = bench.links.of(gadgetId);
      const line = runner?.live.lineOf(channelId);
      if (!runner || !line)
        throw new ProblemError(
          404,
          'no-readings',
          'Not found',
          `Channel "${channelId}" has no live readings.`,
          'Connect the gadget, or look up the channels in /api/gadgets/…/now.',
        );
      return { unit: line.outputs[0]!.unit, ...runner.live.stretch(channelId, fromS, toS) };
    },
  };
}

const silentOf = (runner: LinkRunner | null): string | null =>
  !runner ? 'no link' : runner.status.state === 'up' ? null : 'no data from the link';

/** Alarms of a gadget that is heard from by nothing. */
const unlinked = (rules: readonly AlarmRule[]): GadgetAlarms => ({
  level: 'unknown',
  items: rules.map(({ id }) => ({
    ruleId: id,
    level: 'unknown',
    sinceS: null,
    value: null,
    reason: 'no link',
    isHeld: false,
    isSeen: false,
    silencedS: 0,
  })),
});

function problemOf(live: LiveBench, channelId: string): string | null {
  const at = live.channels.findIndex((c) => c.id === channelId);
  return live.problems[at] ?? null;
}

/** A bench that has heard nothing: what a gadget without a link would show has units and names all the same. */
function neverHeard(gadget: Gadget, calibrations: readonly Calibration[], shelf: readonly Part[]): LiveBench {
  const columns = rawColumns(gadget);
  const live = new LiveBench(columns);
  live.setUp(liveSpec(gadget, calibrations, shelf, columns, gadget.sampleRateHz));
  return live;
}

const heardOf = (live: LiveBench, channelId: string, silent: string | null): Heard => ({
  line: live.lineOf(channelId),
  problem: problemOf(live, channelId),
  watchProblem: live.watchProblem(channelId),
  raw: live.newestRaw(channelId),
  newest: live.newest(channelId),
  told: live.worth(channelId),
  figures: live.figures(channelId),
  silent,
});
