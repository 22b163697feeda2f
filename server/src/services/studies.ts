import { randomUUID } from 'node:crypto';
import type {
  Gadget,
  JudgedStudy,
  NewStudy,
  Study,
  StudyBody,
  StudyPairs,
  StudyPairsBody,
} from '@lucky-needle/core/model';
import { studyAbout } from '@lucky-needle/core/plan';
import { studyKindOf } from '@lucky-needle/core/study';
import { convertUnit, isoSeconds, UNITS } from '@lucky-needle/core/units';
import { notFound, staleVersion } from '../http/problem.ts';
import type { RecordingReadings } from '../readings/recordingReadings.ts';
import type { Bench } from './bench.ts';
import { checkBody, invalid } from './checkStudy.ts';
import { readByOf, studyCards } from './studyCards.ts';

/** Pairs that one look at two runs gives at the most. */
const MOST_PAIRS = 200;

/** Studies of a gadget: evidence kept on disk, judged by the line as it is. */
export function studiesService(bench: Bench, readings: RecordingReadings) {
  const { tables } = bench;
  const { channelOf, cardOf } = studyCards(bench, readings);

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
        throw invalid(`Unknown study "${name}".`, 'Choose one of the studies on the Prove page.', 'kind');
      if (!about)
        throw invalid(
          'This channel or result does not exist, or its signal line has an error.',
          'Choose a channel or a result that has readings.',
          'channelId',
        );
      if (kind.takes !== null && figureId !== null)
        throw invalid(
          `${kind.title} uses the readings of a run, and a result has no readings of its own.`,
          'Choose the channel instead.',
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
      await noted(study, `Study started: ${kind.title}, ${about.name}.`, now);
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
          throw invalid(
            'A run used in this study does not exist.',
            'Choose a run of this gadget.',
            'stretches',
          );
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
        throw invalid('That run belongs to another gadget.', 'Choose a run of this gadget.', 'recordingId');
      const about = studyAbout(own.gadget, study.channelId, study.figureId);
      const beside = studyAbout(theirs.gadget, other.channelId, null);
      if (!about || !beside || UNITS[about.unit].dimension !== UNITS[beside.unit].dimension)
        throw invalid(
          'The two channels do not measure the same quantity.',
          'Choose another comparison channel.',
          'other',
        );
      const laterS = own.recording.id === theirs.recording.id ? 0 : own.beganS - theirs.beganS;
      const fromS = Math.max(own.recording.firstTimeS ?? 0, (theirs.recording.firstTimeS ?? 0) - laterS);
      const toS = Math.min(own.recording.lastTimeS ?? 0, (theirs.recording.lastTimeS ?? 0) - laterS);
      const count = Math.floor((toS - fromS) / everyS);
      if (!(count >= 1))
        throw invalid(
          'The two runs do not overlap in time, or by less than one step.',
          'Choose runs recorded at the same time, or a shorter step.',
          'everyS',
        );
      if (count > MOST_PAIRS)
        throw invalid(
          `One pair every ${everyS} s gives ${count} pairs; the maximum is ${MOST_PAIRS}.`,
          `Use one pair every ${Math.ceil((toS - fromS) / MOST_PAIRS)} s.`,
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
      await noted(study, `Study "${study.title}" deleted.`);
    },

    async restore(id: string): Promise<JudgedStudy> {
      if (!(await tables.studies.setDeleted(id, null))) throw notFound('study', id);
      const study = await find(id);
      await noted(study, `Study "${study.title}" restored.`);
      return judgedOf(await gadgetOf(study.gadgetId), study);
    },
  };
}

export type StudiesService = ReturnType<typeof studiesService>;
