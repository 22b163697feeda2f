import { useCallback, useMemo } from 'react';
import { GUIDED_FITS } from '@lucky-needle/core/calibrate';
import type { Evidence, EvidenceKind, EvidencePoint, FitResult, Problem } from '@lucky-needle/core/model';
import {
  useCalibrateGuidedMutation,
  useKeepEvidenceMutation,
  usePatchEvidenceMutation,
} from '../../../api/trueUpApi.ts';
import { problemOf } from '../../../api/problemOf.ts';
import { useAppDispatch } from '../../../app/store.ts';
import { toastShown } from '../../../app/toasts.ts';
import { useBench, type ChannelContext } from '../../../app/useBench.ts';
import { benchWorker } from '../../../workers/benchWorker.ts';
import { alikeChannels } from './guidedFor.ts';
import { previewGuided } from '../../../workers/previewGuided.ts';

export type Kept<K extends EvidenceKind> = EvidencePoint & {
  readonly evidence: Extract<Evidence, { kind: K }>;
};

export interface GuidedTrueUp<K extends EvidenceKind> {
  /** All that was kept of this kind, oldest first, with what was left out. */
  readonly kept: readonly Kept<K>[];
  /** What counts of it. */
  readonly counted: readonly Kept<K>[];
  readonly busy: boolean;
  readonly problem: Problem | null;
  /** Stores a piece; null when that was refused. On disk when it resolves. */
  keep(evidence: Extract<Evidence, { kind: K }>, replaces?: readonly string[]): Promise<EvidencePoint | null>;
  leaveOut(id: string, reason: string | null): Promise<void>;
  /** What the fit makes of these pieces now, before anything is stored. */
  preview(pieces: readonly { readonly evidence: Evidence }[]): FitResult | string;
  /** The same in a worker, for thousands of readings. */
  previewAside(pieces: readonly { readonly evidence: Evidence }[]): Promise<FitResult | string>;
  /** A new version in use from kept pieces, and from new ones that are kept in the same act, for all channels on the same columns. */
  use(ids: readonly string[], done: string, fresh?: readonly Evidence[]): Promise<boolean>;
}

/** What a guided card works with: its evidence on disk, its fit, and the version that it makes. */
export function useGuided<K extends EvidenceKind>(channel: ChannelContext, fitId: string): GuidedTrueUp<K> {
  const { gadget, evidence } = useBench();
  const [keepEvidence, keeping] = useKeepEvidenceMutation();
  const [patchEvidence, patching] = usePatchEvidenceMutation();
  const [calibrate, calibrating] = useCalibrateGuidedMutation();
  const dispatch = useAppDispatch();
  const fit = GUIDED_FITS.find((f) => f.id === fitId)!;
  const { line } = channel.channel;
  const alike = useMemo(() => alikeChannels(gadget.channels, line), [gadget.channels, line]);
  const kept = useMemo(
    () =>
      evidence.filter(
        (e) => e.evidence.kind === fit.takes && alike.some((c) => c.id === e.channelId),
      ) as Kept<K>[],
    [evidence, fit, alike],
  );
  const preview = useCallback(
    (pieces: readonly { readonly evidence: Evidence }[]) =>
      previewGuided(fitId, line, pieces, gadget.sampleRateHz),
    [fitId, line, gadget.sampleRateHz],
  );
  const previewAside = useCallback(
    (pieces: readonly { readonly evidence: Evidence }[]) =>
      benchWorker().guided(fitId, line, pieces, gadget.sampleRateHz),
    [fitId, line, gadget.sampleRateHz],
  );
  return {
    kept,
    counted: useMemo(() => kept.filter((e) => e.excluded === null), [kept]),
    busy: keeping.isLoading || calibrating.isLoading,
    problem: problemOf(keeping.error ?? patching.error ?? calibrating.error),
    async keep(piece, replaces = []) {
      const result = await keepEvidence({
        gadgetId: gadget.id,
        body: { channelId: channel.channel.id, evidence: piece, replaces: [...replaces] },
      });
      return result.data ?? null;
    },
    async leaveOut(id, reason) {
      await patchEvidence({ id, patch: { excluded: reason } });
    },
    preview,
    previewAside,
    async use(ids, done, fresh = []) {
      const result = await calibrate({
        gadgetId: gadget.id,
        body: {
          channelIds: alike.map((c) => c.id),
          fit: fitId,
          evidenceIds: [...ids],
          evidence: [...fresh],
          note: '',
        },
      });
      if (!result.data) return false;
      dispatch(
        toastShown({
          text: `${done} Calibration ${result.data.items[0]!.number} is now active.`,
          tone: 'done',
        }),
      );
      return true;
    },
  };
}
