import { readingUnit, gadgetProof, type ChannelProof, type SeenRows } from '@lucky-needle/core/plan';
import type { Gadget, ProofAnswer } from '@lucky-needle/core/model';
import type { LinkRunner } from '../capture/linkRunner.ts';
import { notFound, ProblemError } from '../http/problem.ts';
import type { Bench } from './bench.ts';

/** Rows that are taken of what the live bench keeps. */
const ROWS = 9;

/** What is shown of a gadget's brief, by its calibrations and points and by what its link sends now. */
export function proofService({ tables, links }: Bench) {
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
        seenBy(runner),
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

function toldOf(gadget: Gadget, { channelId, name, proof }: ChannelProof): ProofAnswer['channels'][number] {
  if (typeof proof === 'string') return { channelId, name, problem: proof, claims: [], budget: null };
  const { budget, claims } = proof;
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

function seenBy(runner: LinkRunner | null | undefined): SeenRows {
  const raw = runner?.live.raw;
  if (!runner || !raw || raw.length === 0) return { columns: [], rows: [] };
  const columns = runner.live.columns.map((_, k) => raw.column(k));
  return {
    columns: runner.live.columns,
    rows: Array.from({ length: Math.min(ROWS, raw.length) }, (_, k) => {
      const at = raw.length - 1 - Math.floor((k * raw.length) / ROWS);
      return columns.map((column) => column[at]!);
    }),
  };
}
