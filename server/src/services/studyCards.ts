import { createHash } from 'node:crypto';
import { LineError } from '@lucky-needle/core/line';
import type { Gadget, Study, StudyCard, StudyEvidenceRow } from '@lucky-needle/core/model';
import { readoutChannel, shelfWith, studyAbout } from '@lucky-needle/core/plan';
import type { WatchedChannel } from '@lucky-needle/core/reading';
import {
  judgeStudy,
  studyKindOf,
  type StudyAbout,
  type StudyKind,
  type StudyResult,
  type StudySamples,
} from '@lucky-needle/core/study';
import { isoSeconds } from '@lucky-needle/core/units';
import type { RecordingReadings } from '../readings/recordingReadings.ts';
import { studySamples } from '../readings/studySamples.ts';
import type { Bench } from './bench.ts';

/** Cards that are kept, so that a page that comes back does not wait again. */
const MOST_KEPT = 200;

/** What studies come to, by the line as it is now. */
export function studyCards({ tables, knex }: Bench, readings: RecordingReadings) {
  const kept = new Map<string, StudyCard>();

  /** A channel as it is read now; null where it has gone. */
  async function channelOf(gadget: Gadget, channelId: string): Promise<WatchedChannel | null> {
    const channel = gadget.channels.find((c) => c.id === channelId);
    if (!channel) return null;
    const calibrations = await tables.calibrations.list(gadget.id);
    return readoutChannel(
      gadget,
      channel,
      calibrations,
      shelfWith((await tables.parts.list()).map((o) => o.part)),
    );
  }

  async function cardOf(gadget: Gadget, study: Study): Promise<StudyCard> {
    const kind = studyKindOf(study.kind);
    const channel = await channelOf(gadget, study.channelId);
    const about = studyAbout(gadget, study.channelId, study.figureId);
    const unit = about?.unit ?? 'count';
    if (!kind || !channel || !about)
      return told(unstudied(kind, channel === null), { name: study.channelId, unit }, []);
    const readBy = readByOf(gadget, channel, study.figureId);
    const recordings = await Promise.all(study.stretches.map((s) => tables.recordings.find(s.recordingId)));
    const key = JSON.stringify([
      study.settings,
      study.kind,
      study.rows,
      study.stretches,
      recordings.map((r) => r && [r.sampleCount, r.pieces, r.name]),
      about,
      readBy,
      channel.warmUpS,
      channel.slowestHz,
    ]);
    const known = kept.get(key);
    if (known) return known;
    const rows = study.rows.filter((r) => r.excluded === null);
    const stale = kind.acrossChanges ? [] : rows.filter((r) => r.readBy !== readBy);
    const result = await judged(kind, study, rows, channel, about);
    const card = told(
      stale.length > 0 && result.state === 'pass' ? gone(result, stale.length, rows.length) : result,
      about,
      stale,
    );
    kept.set(key, card);
    if (kept.size > MOST_KEPT) kept.delete(kept.keys().next().value!);
    return card;
  }

  async function judged(
    kind: StudyKind,
    study: Study,
    rows: readonly StudyEvidenceRow[],
    channel: WatchedChannel,
    about: StudyAbout,
  ): Promise<StudyResult> {
    try {
      const samples: StudySamples[] = [];
      for (const stretch of kind.takes === null ? [] : study.stretches) {
        const recording = await tables.recordings.find(stretch.recordingId);
        if (!recording)
          throw new RangeError('A run used in this study has been deleted. Choose another run.');
        const { fromS, toS } = stretch;
        samples.push(
          await studySamples(
            knex,
            readings,
            recording,
            // What was brought in from a file says nothing of when it was switched on.
            recording.state === 'imported' ? { ...channel, warmUpS: 0 } : channel,
            fromS === null && toS === null
              ? null
              : { fromS: fromS ?? recording.firstTimeS ?? 0, toS: toS ?? recording.lastTimeS ?? 0 },
            kind.takes === 'held' && study.settings['column']
              ? {
                  column: String(study.settings['column']),
                  value: typeof study.settings['value'] === 'number' ? study.settings['value'] : null,
                }
              : null,
          ),
        );
      }
      return judgeStudy(
        kind,
        study.settings,
        { rows: rows.map((r) => ({ values: r.values, keptS: isoSeconds(r.keptAt) })), samples },
        about,
      );
    } catch (error) {
      if (!(error instanceof RangeError) && !(error instanceof LineError)) throw error;
      return {
        state: 'not shown',
        sentence: error.message,
        next: error instanceof LineError ? 'Fix the signal line first.' : 'Choose different evidence.',
        facts: [],
        plots: [],
      };
    }
  }

  return { channelOf, cardOf };
}

/** What a number depends on, beside what was measured: with another of these it tells of another gadget. */
export function readByOf(gadget: Gadget, { line, watch }: WatchedChannel, figureId: string | null): string {
  const made = {
    sources: line.sources,
    stages: line.stages.filter((s) => !s.off).map(({ kind, params }) => ({ kind, params })),
    ...(line.beside ? { beside: line.beside.map((of) => [of.channelId, of.sources, of.stages]) } : {}),
    // A figure depends on what counts as well.
    figure: figureId === null ? null : [figureId, watch?.watches, watch?.figures],
    // Another place, another gravity and air.
    place: { elevationM: gadget.place.elevationM, pressureHpa: gadget.place.pressureHpa },
  };
  return createHash('sha256').update(JSON.stringify(made)).digest('hex');
}

const gone = (result: StudyResult, stale: number, all: number): StudyResult => ({
  ...result,
  state: 'not shown',
  sentence: `${result.sentence} However, the line, its calibration or the place has changed since ${stale} of ${all} rows were saved.`,
  next: 'Measure these rows again with the gadget as it is now.',
});

const unstudied = (kind: StudyKind | undefined, channelGone: boolean): StudyResult => ({
  state: 'not shown',
  sentence: !kind
    ? 'Unknown kind of study.'
    : channelGone
      ? 'The channel of this study was deleted.'
      : 'The channel or result of this study was deleted, or its signal line has an error.',
  next: 'Delete this study, or create a new one.',
  facts: [],
  plots: [],
});

/** As it is told: what is no number is left empty. */
function told(
  result: StudyResult,
  { name, unit }: Pick<StudyAbout, 'name' | 'unit'>,
  stale: readonly StudyEvidenceRow[],
): StudyCard {
  const clean = (values: readonly number[]) => values.map((v) => (Number.isFinite(v) ? v : null));
  return {
    state: result.state,
    sentence: result.sentence,
    next: result.next,
    facts: [...result.facts],
    plots: result.plots.map((plot) => ({
      ...plot,
      series: plot.series.map((s) => ({ ...s, x: clean(s.x), y: clean(s.y) })),
      allowed: plot.allowed && [...plot.allowed],
    })),
    about: name,
    unit,
    stale: stale.map((r) => r.id),
  };
}
