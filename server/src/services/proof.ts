import {
  allClaims,
  readingUnit,
  gadgetProof,
  nowFigures,
  seenRows,
  shelfWith,
  type ChannelProof,
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
          'This gadget has no brief, so that there is nothing to prove.',
          'Write the brief first: it says what must be proved.',
        );
      const { channels, ...summary } = proof;
      return { ...summary, channels: channels.map((channel) => toldOf(gadget, channel)) };
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

function toldOf(gadget: Gadget, judged: ChannelProof): ProofAnswer['channels'][number] {
  const { channelId, name, proof } = judged;
  const claims = allClaims(judged);
  if (typeof proof === 'string') return { channelId, name, problem: proof, claims, budget: null };
  const { budget } = proof;
  const channel = gadget.channels.find((c) => c.id === channelId)!;
  const unit = readingUnit(gadget, channel);
  return {
    channelId,
    name,
    problem: null,
    claims,
    budget:
      typeof budget === 'string' || unit === null
        ? null
        : { expanded: budget.result.expanded, at: budget.at, unit, unknown: [...budget.result.unknown] },
  };
}
