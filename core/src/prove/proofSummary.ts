import type { Claim } from './claims.ts';

/** What stands behind a proof in a few words: how much is shown, what is weakest, and what to do next. */
export interface ProofSummary {
  readonly shown: number;
  readonly of: number;
  /** Whether a claim fails: worse than one that is not shown. */
  readonly failed: boolean;
  readonly sentence: string;
  /** Null where all is shown. */
  readonly next: NextThing | null;
}

export interface NextThing {
  readonly by: Claim['by'];
  /** The claim that it is taken from: of a study, the study is told by it. */
  readonly claimId: Claim['id'];
  readonly text: string;
  /** Whose claims it bears on; the first is done first. */
  readonly channelId: string;
  /** Claims that it may settle. */
  readonly settles: number;
}

export interface ClaimOf {
  readonly channelId: string;
  /** Null where there is only one channel. */
  readonly channelName: string | null;
  readonly claim: Claim;
}

/** Claims by their weight: how much of what a maker says of a reading rests on them. */
const WEIGHT: readonly Claim['id'][] = ['check', 'budget', 'span', 'noise', 'rate'];

/** What was studied weighs more than what only makes it likely, and less than being right against a reference. */
const weightOf = ({ id }: Claim) =>
  id.startsWith('study-') ? 1.5 : WEIGHT.indexOf(id.startsWith('figure-') ? 'budget' : id);

export const byWeight = (a: Claim, b: Claim): number => weightOf(a) - weightOf(b);

/** Sums up claims of one channel or of all: what fails is weaker than what is not shown, then by weight. */
export function proofSummary(all: readonly ClaimOf[]): ProofSummary {
  const open = all
    .filter(({ claim }) => claim.state !== 'pass')
    .toSorted(
      (a, b) =>
        Number(b.claim.state === 'fail') - Number(a.claim.state === 'fail') || byWeight(a.claim, b.claim),
    );
  const shown = all.length - open.length;
  const failing = open.filter(({ claim }) => claim.state === 'fail').length;
  const [weakest] = open;
  return {
    shown,
    of: all.length,
    failed: failing > 0,
    sentence: weakest
      ? `${shown} of ${all.length} claims passed${failing > 0 ? `, ${failing} failed` : ''}; weakest: “${weakest.claim.title}”${weakest.channelName ? ` (${weakest.channelName})` : ''}.`
      : `All ${all.length} claims passed.`,
    next: nextThing(open),
  };
}

/** Without a link nothing can be captured; after that, whatever bears on most of what is open. */
function nextThing(open: readonly ClaimOf[]): NextThing | null {
  const doable = open.filter(({ claim }) => claim.by !== null);
  const ways = [...new Set(doable.map(({ claim }) => wayOf(claim)))]
    .map((way) => doable.filter(({ claim }) => wayOf(claim) === way))
    .toSorted(
      (a, b) => Number(b[0]!.claim.by === 'link') - Number(a[0]!.claim.by === 'link') || b.length - a.length,
    );
  const [best] = ways;
  if (!best) return null;
  const { claim, channelId, channelName } = best[0]!;
  const titles = [...new Set(best.map((b) => `“${b.claim.title}”`))];
  return {
    by: claim.by,
    claimId: claim.id,
    channelId,
    text: `${channelName ? `${channelName}: ` : ''}${claim.next} This affects ${inWords(titles)}.`,
    settles: best.length,
  };
}

/** Every study is done by itself, and so is what a figure is made of. */
const wayOf = ({ by, id }: Claim) =>
  by === 'study' || (by === 'line' && id.startsWith('figure-')) ? id : by;

const inWords = (list: readonly string[]) =>
  list.length < 2 ? list.join('') : `${list.slice(0, -1).join(', ')} and ${list.at(-1)!}`;
