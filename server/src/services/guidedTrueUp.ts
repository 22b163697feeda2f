import { randomUUID } from 'node:crypto';
import {
  calibrationFault,
  evidenceInWords,
  fitGuided,
  GUIDED_FITS,
  mergeGuided,
  wantsAxes,
  withNeutralAxes,
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
import type { PatchChannels } from './gadgets.ts';
import { refuseUnreadable, type TrueUp } from './trueUp.ts';

const WORDS: Readonly<Record<EvidencePoint['evidence']['kind'], string>> = {
  rest: 'a rest position',
  cloud: 'a rotation through all directions',
  'ac-middle': 'a section with the load off',
  'ac-lag': 'a section with a resistive load',
  'ac-scale': 'a comparison with a meter',
  drag: 'a drag along the ruler',
  bearing: 'a bearing',
  exposure: 'an exposure',
  rate: 'a rate comparison',
};

/** True-ups that follow a form: what is kept is on disk at once, and the versions are worked out here from what is kept. */
export function guidedTrueUpService(bench: Bench, trueUp: TrueUp, patchGadget: PatchChannels) {
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

  const pointOf = (channelId: string, evidence: EvidencePoint['evidence']): EvidencePoint => ({
    id: randomUUID(),
    channelId,
    evidence,
    excluded: null,
    keptAt: bench.now(),
  });

  async function store(gadgetId: string, { name }: Channel, point: EvidencePoint): Promise<void> {
    await tables.evidence.insert(gadgetId, point);
    const { evidence, keptAt } = point;
    const text = `${name}: captured ${WORDS[evidence.kind]}. ${evidenceInWords(evidence)}.`;
    await tables.logbook.write(gadgetId, 'true-up', text, keptAt);
  }

  return {
    async keep(gadgetId: string, input: NewEvidence): Promise<EvidencePoint> {
      const { channels } = await gadgetOf(gadgetId, [input.channelId]);
      const point = pointOf(input.channelId, input.evidence);
      for (const id of input.replaces ?? [])
        if ((await tables.evidence.find(id))?.gadgetId !== gadgetId) throw notFound('evidence', id);
      await store(gadgetId, channels[0]!, point);
      for (const id of input.replaces ?? [])
        await tables.evidence.patch(id, { excluded: 'replaced by a new capture' });
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
          ? `Included ${what} again. ${evidenceInWords(found.point.evidence)}.`
          : `Excluded ${what} (${evidenceInWords(found.point.evidence)}): ${patch.excluded}.`,
      );
      bench.changed(found.gadgetId, 'evidence');
      return (await tables.evidence.find(id))!.point;
    },

    /** One version for each channel, in use at once: all are worked out before any is stored. */
    async calibrate(gadgetId: string, input: NewGuidedCalibration): Promise<{ items: Calibration[] }> {
      const { gadget, channels: asTheyAre } = await gadgetOf(gadgetId, input.channelIds);
      const kept = await tables.evidence.list(gadgetId);
      const fresh = (input.evidence ?? []).map((e) => pointOf(input.channelIds[0]!, e));
      const known = input.evidenceIds.map((id) => {
        const found = kept.find((e) => e.id === id);
        if (!found) throw notFound('evidence', id);
        return found;
      });
      const evidence = [...fresh, ...known];
      const before = await tables.calibrations.list(gadgetId);
      // A line made before there was a correction in it gets one that changes nothing, for the version to fill in.
      const channels = asTheyAre.map((c) =>
        wantsAxes(input.fit, c.line) ? { ...c, line: withNeutralAxes(c.line, c.line.sources[0]!.unit) } : c,
      );
      const results = channels.map((channel) => resultFor(gadget, channel, input, evidence, before));
      if (channels.some((c, i) => c !== asTheyAre[i]))
        await patchGadget(gadgetId, String(gadget.version), {
          channels: gadget.channels.map((c) => channels.find((n) => n.id === c.id) ?? c),
        });
      for (const point of fresh) await store(gadgetId, channels[0]!, point);
      if (fresh.length > 0) bench.changed(gadgetId, 'evidence');
      const items: Calibration[] = [];
      for (const [i, channel] of channels.entries())
        items.push(
          await trueUp.store(gadgetId, channel.id, results[i]!, {
            pointIds: evidence.map((e) => e.id),
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
  const refuse = (detail: string, way = 'Capture more evidence, or check the signal line.') =>
    new ProblemError(422, 'cannot-fit', 'Fit not possible', detail, way, 'fit');
  const fit = GUIDED_FITS.find((f) => f.id === input.fit);
  if (!fit)
    throw refuse(`Unknown fit "${input.fit}".`, `Choose one of ${GUIDED_FITS.map((f) => f.id).join(', ')}.`);
  const result = fitGuided(fit, channel.line, evidence, { sampleRateHz: gadget.sampleRateHz });
  if (typeof result === 'string') throw refuse(result);
  if (!result.converged) throw refuse(`The fit did not converge: ${result.reason}.`);
  const used = before.find((c) => c.channelId === channel.id && c.state === 'in use') ?? null;
  // One that cannot be read by is in nobody's way: what is new stands alone.
  const kept = used && calibrationFault(channel.line, used) === null ? used.result : null;
  const merged = mergeGuided(kept, result);
  refuseUnreadable(channel, merged);
  return merged;
}
