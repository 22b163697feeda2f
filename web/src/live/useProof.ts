import { useEffect, useMemo } from 'react';
import type { Problem, ProofAnswer } from '@lucky-needle/core/model';
import { problemOf } from '../api/problemOf.ts';
import { useProofQuery } from '../api/proofApi.ts';
import { useLiveOf } from './useLive.ts';

/** How often it is asked anew while readings come, which change what is known of them. */
const EVERY_MS = 10_000;

export interface ProofNow {
  /** Null while it is fetched, without a brief, and when it could not be had. */
  readonly proof: ProofAnswer | null;
  readonly problem: Problem | null;
}

/** What is shown of a gadget, as the server has worked it out; anew when its link or the first readings come, or go. */
export function useProof(gadgetId: string, hasBrief: boolean): ProofNow {
  const link = useLiveOf(({ gadgetId: of, status, columns }) =>
    of === gadgetId ? `${status?.state ?? 'none'} ${[...columns.values()].some((c) => c.length > 0)}` : '',
  );
  const { currentData, error, refetch, isUninitialized } = useProofQuery(gadgetId, {
    skip: !hasBrief,
    pollingInterval: link.startsWith('up') ? EVERY_MS : 0,
  });
  useEffect(() => {
    if (!isUninitialized) void refetch();
  }, [link, refetch, isUninitialized]);
  return useMemo(
    () => ({ proof: (hasBrief && currentData) || null, problem: hasBrief ? problemOf(error) : null }),
    [hasBrief, currentData, error],
  );
}
