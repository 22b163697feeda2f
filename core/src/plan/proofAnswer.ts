import type { Gadget } from '../model/gadget.ts';
import type { ProofAnswer, ProofOfChannel } from '../model/proof.ts';
import { budgetAnswer } from '../prove/budgetAnswer.ts';
import { byWeight, proofSummary } from '../prove/proofSummary.ts';
import { allClaims, type ChannelProof, type GadgetProof } from './gadgetProof.ts';
import { readingUnit } from './shown.ts';

/** What is shown of a gadget as every page and script is told it: numbers that are not known are null. */
export function proofAnswer(gadget: Gadget, { channels, ...summary }: GadgetProof): ProofAnswer {
  return { ...summary, channels: channels.map((channel) => ofChannel(gadget, channel)) };
}

function ofChannel(gadget: Gadget, judged: ChannelProof): ProofOfChannel {
  const { channelId, name, proof } = judged;
  const claims = allClaims(judged).toSorted(byWeight);
  const told = {
    channelId,
    name,
    own: proofSummary(claims.map((claim) => ({ channelId, channelName: null, claim }))),
    claims,
  };
  if (typeof proof === 'string')
    return { ...told, problem: proof, worstCheck: null, budget: null, noBudget: null };
  const { budget, checks } = proof;
  const worst = checks.toSorted((a, b) => a.verdict.margin - b.verdict.margin)[0];
  const unit = readingUnit(
    gadget,
    gadget.channels.find((c) => c.id === channelId)!,
  );
  return {
    ...told,
    problem: null,
    worstCheck:
      worst && Number.isFinite(worst.error) && Number.isFinite(worst.uncertainty)
        ? { error: worst.error, uncertainty: worst.uncertainty, limit: worst.verdict.limit }
        : null,
    budget: typeof budget === 'string' || unit === null ? null : budgetAnswer(budget, unit),
    noBudget: typeof budget === 'string' ? budget : null,
  };
}
