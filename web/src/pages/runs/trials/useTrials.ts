import { useState } from 'react';
import type { TrialRule, TrialsAnswer, WatchSpec } from '@lucky-needle/core/model';
import { problemOf } from '../../../api/problemOf.ts';
import { useTrialsQuery } from '../../../api/trialApi.ts';

export type Trials = Exclude<TrialsAnswer, { share: number }>;

/** How often a recording in progress, and work that takes long, is looked at again, ms. */
const [GROWING_MS, WORKING_MS] = [1500, 400];

/** Trials by the kept rule or one that is tried; the newest whole answer stays while another is worked out. */
export function useTrials(
  gadgetId: string,
  rule: TrialRule | null,
  isRecording: boolean,
  watches?: readonly WatchSpec[],
) {
  const [whole, setWhole] = useState<{ readonly of: string; readonly answer: Trials } | null>(null);
  const [share, setShare] = useState<number | null>(null);
  const { data, error } = useTrialsQuery(
    { gadgetId, rule, watches },
    { pollingInterval: share !== null ? WORKING_MS : isRecording ? GROWING_MS : 0 },
  );
  const of = JSON.stringify([gadgetId, rule, watches]);
  if (data && 'trials' in data && whole?.answer !== data) setWhole({ of, answer: data });
  const working = data && 'share' in data ? data.share : null;
  if (working !== share) setShare(working);
  return { trials: whole?.of === of ? whole.answer : null, share, problem: problemOf(error) };
}
