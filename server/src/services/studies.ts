import { createHash, randomUUID } from 'node:crypto';
import { LineError } from '@lucky-needle/core/line';
import type {
  Gadget,
  JudgedStudy,
  NewStudy,
  Study,
  StudyBody,
  StudyCard,
  StudyEvidenceRow,
  StudyPairs,
  StudyPairsBody,
} from '@lucky-needle/core/model';
import { readoutChannel, shelfWith, studyAbout } from '@lucky-needle/core/plan';
import type { WatchedChannel } from '@lucky-needle/core/reading';
import {
  checkStudySettings,
  judgeStudy,
  studyKindOf,
  type StudyAbout,
  type StudyKind,
  type StudyResult,
  type StudySamples,
} from '@lucky-needle/core/study';
import { convertUnit, isoSeconds, UNITS } from '@lucky-needle/core/units';
import { notFound, ProblemError, staleVersion } from '../http/problem.ts';
import { recordingReadings } from '../readings/recordingReadings.ts';
import { studySamples } from '../readings/studySamples.ts';
import type { Bench } from './bench.ts';

/** Pairs that one look at two runs gives at the most. */
const MOST_PAIRS = 200;
/** Cards that are kept, so that a page that comes back does not wait again. */
const MOST_KEPT = 200;

/** Studies of a gadget: evidence kept on disk, judged by the line as it is. */
export function studiesService(bench: Bench) {
  const { tables } = bench;
  const readings = recordingReadings(bench.knex);
  const kept = new Map<string, StudyCard>();

  async function gadgetOf(id: string): Promise<Gadget> {
    const gadget = await tables.gadgets.find(id);
    if (!gadget) throw notFound('gadget', id);
    return gadget;
  }

  async function find(id: string): Promise<Study> {
    const study = await tables.studies.find(id);
    if (!study) throw notFound('study', id);
    return study;
  }

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
          throw new RangeError('A run that it was made with has been deleted: take another one.');
        const { fromS, toS } = stretch;
        samples.push(
          await studySamples(
            bench.knex,
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
        next: error instanceof LineError ? 'Mend the line first.' : 'Choose other evidence.',
        facts: [],
        plots: [],
      };
    }
  }

  /** One side of a comparison: a channel as it reads a run, and when that run began by the clock of the bench. */
  async function sideOf(recordingId: string, channelId: string) {
    const recording = await tables.recordings.find(recordingId);
    if (!recording) throw notFound('recording', recordingId);
    const gadget = await gadgetOf(recording.gadgetId);
    const channel = await channelOf(gadget, channelId);
    if (!channel) throw notFound('channel', channelId);
    const beganS = isoSeconds(recording.startedAt) - (recording.firstTimeS ?? 0);
    return { recording, gadget, channel, beganS };
  }

  const judgedOf = async (gadget: Gadget, study: Study): Promise<JudgedStudy> => ({
    study,
    card: await cardOf(gadget, study),
  });

  async function noted(study: Study, said: string, at?: string): Promise<void> {
    await tables.logbook.write(study.gadgetId, 'prove', said, at);
    bench.changed(study.gadgetId, 'studies');
  }

  return {
    async list(gadgetId: string): Promise<JudgedStudy[]> {
      const gadget = await gadgetOf(gadgetId);
      const answers: JudgedStudy[] = [];
      // One after the other: each may hold a long stretch in memory.
      for (const study of await tables.studies.list(gadgetId)) answers.push(await judgedOf(gadget, study));
      return answers;
    },

    async find(id: string): Promise<JudgedStudy> {
      const study = await find(id);
      return judgedOf(await gadgetOf(study.gadgetId), study);
    },

    async begin(
      gadgetId: string,
      { kind: name, channelId, figureId }: NewStudy,
      now = bench.now(),
    ): Promise<JudgedStudy> {
      const gadget = await gadgetOf(gadgetId);
      const kind = studyKindOf(name);
      const about = studyAbout(gadget, channelId, figureId);
      if (!kind)
        throw invalid(`There is no study "${name}".`, 'Choose one of those on the Prove page.', 'kind');
      if (!about)
        throw invalid(
          'What it shall be about is not there, or its line does not run.',
          'Choose a channel or a figure that reads.',
          'channelId',
        );
      if (kind.takes !== null && figureId !== null)
        throw invalid(
          `${kind.title} takes readings of a run, and a figure has none of its own.`,
          'Choose the channel itself.',
          'figureId',
        );
      const study: Study = {
        id: randomUUID(),
        gadgetId,
        version: 1,
        kind: name,
        channelId,
        figureId,
        title: kind.title,
        by: '',
        place: '',
        settings: { ...kind.begin(about) },
        rows: [],
        stretches: [],
        createdAt: now,
        updatedAt: now,
      };
      await tables.studies.insert(study);
      await noted(study, `Began a study: ${kind.title}, ${about.name}.`, now);
      return judgedOf(gadget, study);
    },

    async replace(id: string, version: string, body: StudyBody, now = bench.now()): Promise<JudgedStudy> {
      const before = await find(id);
      const gadget = await gadgetOf(before.gadgetId);
      if (version !== String(before.version)) throw staleVersion(version, before.version);
      const kind = studyKindOf(before.kind);
      if (kind) checkBody(kind, body);
      for (const { recordingId } of body.stretches) {
        const recording = await tables.recordings.find(recordingId);
        if (recording?.gadgetId !== gadget.id)
          throw invalid('A run that it takes is not there.', 'Choose a run of this gadget.', 'stretches');
      }
      const channel = await channelOf(gadget, before.channelId);
      const readBy = channel ? readByOf(gadget, channel, before.figureId) : '';
      const study: Study = {
        ...before,
        ...body,
        version: before.version + 1,
        rows: body.rows.map((row) => {
          const known = before.rows.find((r) => r.id === row.id);
          const isSame = known && JSON.stringify(known.values) === JSON.stringify(row.values);
          return { ...row, keptAt: isSame ? known.keptAt : now, readBy: isSame ? known.readBy : readBy };
        }),
        updatedAt: now,
      };
      if (!(await tables.studies.update(study, before.version)))
        throw staleVersion(version, (await find(id)).version);
      const card = await cardOf(gadget, study);
      const was = await cardOf(gadget, before);
      if (card.state !== was.state)
        await noted(study, `${study.title}: ${card.state}. ${card.sentence}`.slice(0, 2000), now);
      else bench.changed(gadget.id, 'studies');
      return { study, card };
    },

    /** Readings side by side, for the maker to keep: nothing is stored. Two runs meet by the clock of the bench. */
    async pairs(id: string, { recordingId, other, everyS }: StudyPairsBody): Promise<StudyPairs> {
      const study = await find(id);
      const [own, theirs] = await Promise.all([
        sideOf(recordingId, study.channelId),
        sideOf(other.recordingId, other.channelId),
      ]);
      if (own.gadget.id !== study.gadgetId)
        throw invalid('That run is of another gadget.', 'Choose a run of this gadget.', 'recordingId');
      const about = studyAbout(own.gadget, study.channelId, study.figureId);
      const beside = studyAbout(theirs.gadget, other.channelId, null);
      if (!about || !beside || UNITS[about.unit].dimension !== UNITS[beside.unit].dimension)
        throw invalid('The two do not read the same quantity.', 'Choose another channel beside it.', 'other');
      const laterS = own.recording.id === theirs.recording.id ? 0 : own.beganS - theirs.beganS;
      const fromS = Math.max(own.recording.firstTimeS ?? 0, (theirs.recording.firstTimeS ?? 0) - laterS);
      const toS = Math.min(own.recording.lastTimeS ?? 0, (theirs.recording.lastTimeS ?? 0) - laterS);
      const count = Math.floor((toS - fromS) / everyS);
      if (!(count >= 1))
        throw invalid(
          'The two runs have no time in common, or less than one step.',
          'Choose runs that were made at the same time, or a shorter step.',
          'everyS',
        );
      if (count > MOST_PAIRS)
        throw invalid(
          `A pair each ${everyS} s makes ${count} of them; ${MOST_PAIRS} is the most.`,
          `Take one each ${Math.ceil((toS - fromS) / MOST_PAIRS)} s.`,
          'everyS',
        );
      const pairs: StudyPairs['pairs'] = [];
      for (let k = 0; k < count; k++) {
        // In the middle of each step: the ends of a run are where filters begin.
        const timeS = fromS + (k + 0.5) * everyS;
        const shown = (await readings.at(own.recording, own.channel, timeS)).value;
        const reference = (await readings.at(theirs.recording, theirs.channel, timeS + laterS)).value;
        if (Number.isFinite(shown + reference))
          pairs.push({ timeS, shown, reference: convertUnit(reference, beside.unit, about.unit) });
      }
      return { pairs };
    },

    /** Deleting hides; it can be restored. */
    async remove(id: string): Promise<void> {
      const study = await find(id);
      await tables.studies.setDeleted(id, bench.now());
      await noted(study, `Deleted the study ${study.title}.`);
    },

    async restore(id: string): Promise<JudgedStudy> {
      if (!(await tables.studies.setDeleted(id, null))) throw notFound('study', id);
      const study = await find(id);
      await noted(study, `Put the study ${study.title} back.`);
      return judgedOf(await gadgetOf(study.gadgetId), study);
    },
  };
}

export type StudiesService = ReturnType<typeof studiesService>;

const invalid = (detail: string, wayOut: string, field: string) =>
  new ProblemError(422, 'invalid-study', 'Not valid', detail, wayOut, field);

/** Settings and rows as the kind takes them. */
function checkBody(kind: StudyKind, body: StudyBody): void {
  try {
    checkStudySettings(kind, body.settings);
  } catch (error) {
    if (!(error instanceof RangeError) && !(error instanceof TypeError)) throw error;
    throw invalid(error.message, 'Correct it.', 'settings');
  }
  const ids = new Set(body.rows.map((r) => r.id));
  if (ids.size < body.rows.length)
    throw invalid('Two rows have the same id.', 'Give each row its own.', 'rows');
  body.rows.forEach(({ values }, i) => {
    for (const column of kind.columns) {
      const value = values[column.id];
      const field = `rows.${i}.values.${column.id}`;
      const refuse = (what: string) =>
        invalid(
          `Row ${i + 1}, ${column.title}: ${what}; received ${JSON.stringify(value)}.`,
          'Correct it.',
          field,
        );
      if (value === undefined || value === '') {
        if (!column.optional) throw refuse('a value is needed');
      } else if (column.holds === 'choice') {
        if (!column.choices!.includes(String(value)))
          throw refuse(`it must be ${column.choices!.join(' or ')}`);
      } else if (column.holds === 'day') {
        if (!/^\d{4}-\d\d-\d\d$/.test(String(value)) || Number.isNaN(isoSeconds(String(value))))
          throw refuse('it must be a day such as 2026-05-04');
      } else if (column.holds === 'text') {
        if (typeof value !== 'string') throw refuse('it must be a text');
      } else if (typeof value !== 'number') throw refuse('it must be a number');
      else if (column.holds === 'count' && !(Number.isInteger(value) && value >= 0))
        throw refuse('it must be a whole number from 0');
    }
    const other = Object.keys(values).find((id) => !kind.columns.some((c) => c.id === id));
    if (other !== undefined)
      throw invalid(`Row ${i + 1}: there is no column "${other}".`, 'Leave it out.', `rows.${i}.values`);
  });
}

/** What a number depends on, beside what was measured: with another of these it tells of another gadget. */
function readByOf(gadget: Gadget, { line, watch }: WatchedChannel, figureId: string | null): string {
  const made = {
    sources: line.sources,
    stages: line.stages.filter((s) => !s.off).map(({ kind, params }) => ({ kind, params })),
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
  sentence: `${result.sentence} But the line, its calibration or the place has changed since ${stale} of ${all} rows were kept.`,
  next: 'Take them again, as the gadget reads now.',
});

const unstudied = (kind: StudyKind | undefined, channelGone: boolean): StudyResult => ({
  state: 'not shown',
  sentence: !kind
    ? 'This kind of study is not known here.'
    : channelGone
      ? 'The channel that it was about has gone.'
      : 'What it was about has gone, or its line does not run.',
  next: 'Delete it, or begin another one.',
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
