import type { GatheringKind, GatheringNow } from '@lucky-needle/core/model';
import { useGatherMutation, useGatheringQuery } from '../../../api/trueUpApi.ts';
import { problemOf } from '../../../api/problemOf.ts';

/** How often the page asks what has come together, ms. */
const ASK_MS = 700;

const NOTHING: GatheringNow = { isOn: false, rows: 0, seconds: 0, cloud: [], sums: [] };

/** What the server gathers of a channel while something is done to the gadget: the page may be left meanwhile. */
export function useGathering(gadgetId: string, channelId: string, kind: GatheringKind) {
  const asked = useGatheringQuery({ gadgetId, channelId, kind }, { pollingInterval: ASK_MS });
  const [gather, { error, isLoading }] = useGatherMutation();
  const act = (what: 'start' | 'stop' | 'forget') =>
    gather({ gadgetId, body: { channelId, kind, act: what } })
      .unwrap()
      .catch(() => null);
  return {
    now: asked.data ?? NOTHING,
    problem: problemOf(error ?? asked.error),
    busy: isLoading,
    /** Each answers with what is gathered then; null when it was refused. */
    start: () => act('start'),
    stop: () => act('stop'),
    forget: () => act('forget'),
  };
}
