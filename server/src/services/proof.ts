import {
  gadgetProof,
  nowFigures,
  proofAnswer,
  seenRows,
  shelfWith,
  type SeenRows,
} from '@lucky-needle/core/plan';
import type { Gadget, ProofAnswer } from '@lucky-needle/core/model';
import type { LiveBench } from '../capture/liveBench.ts';
import { notFound, ProblemError } from '../http/problem.ts';
import type { Bench } from './bench.ts';
import type { StudiesService } from './studies.ts';

/** What is shown of a gadget's brief, by its calibrations and points and by what its link sends now. */
export function proofService({ tables, links, now }: Bench, studies: StudiesService) {
  return {
    async of(gadgetId: string): Promise<ProofAnswer> {
      const gadget = await tables.gadgets.find(gadgetId);
      if (!gadget) throw notFound('gadget', gadgetId);
      const [calibrations, points] = await Promise.all([
        tables.calibrations.list(gadgetId),
        tables.points.list(gadgetId),
      ]);
      const runner = links.of(gadgetId);
      const { status } = runner ?? {};
      const proof = gadgetProof(
        gadget,
        calibrations,
        points,
        status?.state === 'up' ? status.achievedHz : null,
        seenRows(
          runner?.live.columns.map((name, k) => [name, runner.live.raw.column(k)]) ?? [],
          runner ? nowOf(gadget, runner.live) : {},
          runner ? figuresOf(gadget, runner.live) : {},
        ),
        await studies.list(gadgetId),
        shelfWith((await tables.parts.list()).map((o) => o.part)),
        Date.parse(now()),
      );
      if (!proof)
        throw new ProblemError(
          409,
          'no-brief',
          'No brief yet',
          'This gadget has no brief, so there is nothing to prove.',
          'Write the brief first: it defines what to prove.',
        );
      return proofAnswer(gadget, proof);
    },
  };
}

/** The newest reading of each channel, with what the bench knows of it. */
function nowOf(gadget: Gadget, live: LiveBench): SeenRows['now'] {
  return Object.fromEntries(
    gadget.channels.flatMap(({ id }) => {
      const reading = live.newest(id)?.value;
      return reading === undefined || !Number.isFinite(reading) ? [] : [[id, { reading, u: live.worth(id) }]];
    }),
  );
}

const figuresOf = (gadget: Gadget, live: LiveBench): SeenRows['figures'] =>
  Object.fromEntries(gadget.channels.map((c) => [c.id, nowFigures(gadget, c, live.figures(c.id))]));
