import type { Knex } from 'knex';
import { WatchError } from '@lucky-needle/core/detect';
import type { FigureReading } from '@lucky-needle/core/figures';
import type { Recording, TrialRule } from '@lucky-needle/core/model';
import type { WatchedChannel } from '@lucky-needle/core/reading';
import { createTrialCutter } from '@lucky-needle/core/trial';
import { feedRecording, openRecordingReadout } from './feedRecording.ts';
import type { Told } from './told.ts';

export interface CutTrial {
  readonly fromS: number;
  readonly toS: number;
  readonly isOpen: boolean;
  readonly figures: readonly FigureReading[];
}

export interface RecordingCut {
  /** Why nothing can be cut; null when it can. */
  readonly problem: string | null;
  readonly trials: readonly CutTrial[];
}

/** The trials of one recording: goes on where it stopped while the recording grows. */
export interface TrialsOfRecording {
  /** @param recording as it is now: of a running one only what came since is looked at */
  upTo(recording: Recording, told: Told): Promise<RecordingCut>;
}

/**
 * Cuts a recording into trials by its gadget's rule, in one walk through the same readout as live: at the end of a trial its
 * figures are read, and begin anew.
 * @param channels all channels of the gadget: figures may need others than their own
 */
export async function trialsOfRecording(
  knex: Knex,
  first: Recording,
  channels: readonly WatchedChannel[],
  rule: TrialRule,
): Promise<TrialsOfRecording> {
  const opened = await openRecordingReadout(knex, first, channels);
  const { readout, needed } = opened;
  const at = needed.findIndex((c) => c.id === rule.channelId);
  const problem =
    at < 0
      ? 'This channel has no results. Add one on the Line page.'
      : (readout.readout.lines[at]!.problem?.message ?? fatal(readout.problems[at])?.message ?? null);
  const trials: CutTrial[] = [];
  const cutter = createTrialCutter(rule, first.firstTimeS ?? 0, (stretch) => {
    trials.push({ ...stretch, isOpen: false, figures: readout.figures(at) });
    readout.nextTrial(at, stretch.toS);
  });
  let newestS = -Infinity;
  let ended = false;
  async function goOn(recording: Recording, told: Told): Promise<RecordingCut> {
    if (problem !== null) return { problem, trials: [] };
    if (!ended)
      newestS = await feedRecording(
        knex,
        recording,
        opened,
        newestS,
        recording.markers
          .filter((m) => !m.isTruth)
          .map(({ timeS }) => ({ timeS, act: () => cutter.mark(timeS) })),
        (channel, event) => {
          if (channel === at) cutter.event(event);
        },
        told,
      );
    if (recording.state !== 'recording' && !ended) {
      ended = true;
      if (Number.isFinite(newestS)) cutter.end(newestS);
    }
    const openS = ended ? null : cutter.openS();
    return {
      problem: null,
      trials:
        openS === null || newestS <= openS
          ? [...trials]
          : [...trials, { fromS: openS, toS: newestS, isOpen: true, figures: readout.figures(at) }],
    };
  }
  // Two looks at once would feed the same rows twice.
  let turn: Promise<unknown> = Promise.resolve();
  return {
    upTo(recording, told) {
      const mine = turn.then(() => goOn(recording, told));
      turn = mine;
      return mine;
    },
  };
}

/** A figure that cannot be made says so itself. */
const fatal = (problem: Error | null | undefined) => (problem instanceof WatchError ? problem : null);
