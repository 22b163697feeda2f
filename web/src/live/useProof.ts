import { useEffect, useMemo } from 'react';
import type { Problem, ProofAnswer } from '@lucky-needle/core/model';
import { problemOf } from '../api/problemOf.ts';
import { useProofQuery } from '../api/proofApi.ts';
import { useLiveOf } from './useLive.ts';

/** How often it is asked anew while readings come, which change what is known of them. */
const EVERY_MS = 10_000;

/** The same while its claims are looked at beside the strip: they name the newest that was seen. */
const LOOKED_AT_MS = 2000;

export interface ProofNow {
  /** Null while it is fetched, without a brief, and when it could not be had. */
  readonly proof: ProofAnswer | null;
  readonly problem: Problem | null;
}

/** Asks more often for what `useProof` tells, as long as it is looked at. */
export function useProofLookedAt(gadgetId: string, hasBrief: boolean): void {
  const isUp = useLiveOf(({ gadgetId: of, status }) => of === gadgetId && status?.state === 'up');
  useProofQuery(gadgetId, { skip: !hasBrief, pollingInterval: isUp ? LOOKED_AT_MS : 0 });
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
