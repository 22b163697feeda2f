import { randomUUID } from 'node:crypto';
import {
  calibrationFault,
  evidenceInWords,
  fitGuided,
  GUIDED_FITS,
  mergeGuided,
} from '@lucky-needle/core/calibrate';
import type {
  Calibration,
  Channel,
  EvidencePatch,
  EvidencePoint,
  Gadget,
  NewEvidence,
  NewGuidedCalibration,
} from '@lucky-needle/core/model';
import { ProblemError, notFound } from '../http/problem.ts';
import type { Bench } from './bench.ts';
import { refuseUnreadable, type TrueUp } from './trueUp.ts';

const WORDS: Readonly<Record<EvidencePoint['evidence']['kind'], string>> = {
  rest: 'a rest',
  cloud: 'a turn through all directions',
  'ac-middle': 'a stretch with the load off',
  'ac-lag': 'a stretch on a resistive load',
  'ac-scale': 'a stretch beside a meter',
  drag: 'a drag along the rule',
  bearing: 'a bearing',
  exposure: 'an exposure',
  rate: 'a comparison of rates',
};

/** True-ups that follow a form: what is kept is on disk at once, and the versions are worked out here from what is kept. */
export function guidedTrueUpService(bench: Bench, trueUp: TrueUp) {
  const { tables } = bench;

  async function gadgetOf(gadgetId: string, channelIds: readonly string[]) {
    const gadget = await tables.gadgets.find(gadgetId);
    if (!gadget) throw notFound('gadget', gadgetId);
    const channels = channelIds.map((id) => {
      const channel = gadget.channels.find((c) => c.id === id);
      if (!channel) throw notFound('channel', id);
      return channel;
    });
    return { gadget, channels };
  }

  return {
    async keep(gadgetId: string, input: NewEvidence): Promise<EvidencePoint> {
      const { channels } = await gadgetOf(gadgetId, [input.channelId]);
      const point: EvidencePoint = {
        id: randomUUID(),
        channelId: input.channelId,
        evidence: input.evidence,
        excluded: null,
        keptAt: bench.now(),
      };
      await tables.evidence.insert(gadgetId, point);
      await tables.logbook.write(
        gadgetId,
        'true-up',
        `${channels[0]!.name}: kept ${WORDS[input.evidence.kind]}. ${evidenceInWords(input.evidence)}.`,
        point.keptAt,
      );
      bench.changed(gadgetId, 'evidence');
      return point;
    },

    async patch(id: string, patch: EvidencePatch): Promise<EvidencePoint> {
      const found = await tables.evidence.find(id);
      if (!found) throw notFound('evidence', id);
      await tables.evidence.patch(id, patch);
      const what = WORDS[found.point.evidence.kind];
      await tables.logbook.write(
        found.gadgetId,
        'true-up',
        patch.excluded === null
          ? `Counted ${what} again. ${evidenceInWords(found.point.evidence)}.`
          : `Left out ${what}, ${evidenceInWords(found.point.evidence)}: ${patch.excluded}.`,
      );
      bench.changed(found.gadgetId, 'evidence');
      return (await tables.evidence.find(id))!.point;
    },

    /** One version for each channel, in use at once: all are worked out before any is stored. */
    async calibrate(gadgetId: string, input: NewGuidedCalibration): Promise<{ items: Calibration[] }> {
      const { gadget, channels } = await gadgetOf(gadgetId, input.channelIds);
      const kept = await tables.evidence.list(gadgetId);
      const evidence = input.evidenceIds.map((id) => {
        const found = kept.find((e) => e.id === id);
        if (!found) throw notFound('evidence', id);
        return found;
      });
      const before = await tables.calibrations.list(gadgetId);
      const results = channels.map((channel) => resultFor(gadget, channel, input, evidence, before));
      const items: Calibration[] = [];
      for (const [i, channel] of channels.entries())
        items.push(
          await trueUp.store(gadgetId, channel.id, results[i]!, {
            pointIds: input.evidenceIds,
            note: input.note,
            use: true,
          }),
        );
      return { items };
    },
  };
}

function resultFor(
  gadget: Gadget,
  channel: Channel,
  input: NewGuidedCalibration,
  evidence: readonly EvidencePoint[],
  before: readonly Calibration[],
) {
  const refuse = (detail: string, way = 'Keep more, or look at the line.') =>
    new ProblemError(422, 'cannot-fit', 'Cannot fit', detail, way, 'fit');
  const fit = GUIDED_FITS.find((f) => f.id === input.fit);
  if (!fit)
    throw refuse(
      `There is no guided fit "${input.fit}".`,
      `Choose ${GUIDED_FITS.map((f) => f.id).join(', ')}.`,
    );
  const result = fitGuided(fit, channel.line, evidence, { sampleRateHz: gadget.sampleRateHz });
  if (typeof result === 'string') throw refuse(result);
  if (!result.converged) throw refuse(`The fit did not settle: ${result.reason}.`);
  const used = before.find((c) => c.channelId === channel.id && c.state === 'in use') ?? null;
  // One that cannot be read by is in nobody's way: what is new stands alone.
  const kept = used && calibrationFault(channel.line, used) === null ? used.result : null;
  const merged = mergeGuided(kept, result);
  refuseUnreadable(channel, merged);
  return merged;
}
