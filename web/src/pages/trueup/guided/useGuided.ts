import { useCallback, useMemo } from 'react';
import { GUIDED_FITS, withNeutralAxes } from '@lucky-needle/core/calibrate';
import type { Evidence, EvidenceKind, EvidencePoint, FitResult, Problem } from '@lucky-needle/core/model';
import { usePatchGadgetMutation } from '../../../api/gadgetApi.ts';
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
import { previewGuided, wantsAxes } from '../../../workers/previewGuided.ts';

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
  keep(evidence: Extract<Evidence, { kind: K }>): Promise<EvidencePoint | null>;
  leaveOut(id: string, reason: string | null): Promise<void>;
  /** What the fit makes of these pieces now, before anything is stored. */
  preview(pieces: readonly { readonly evidence: Evidence }[]): FitResult | string;
  /** The same in a worker, for thousands of readings. */
  previewAside(pieces: readonly { readonly evidence: Evidence }[]): Promise<FitResult | string>;
  /** A new version in use from kept pieces, for all channels on the same columns. */
  use(ids: readonly string[], done: string): Promise<boolean>;
}

/** What a guided card works with: its evidence on disk, its fit, and the version that it makes. */
export function useGuided<K extends EvidenceKind>(channel: ChannelContext, fitId: string): GuidedTrueUp<K> {
  const { gadget, evidence } = useBench();
  const [keepEvidence, keeping] = useKeepEvidenceMutation();
  const [patchEvidence, patching] = usePatchEvidenceMutation();
  const [calibrate, calibrating] = useCalibrateGuidedMutation();
  const [patchGadget, saving] = usePatchGadgetMutation();
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
  const needsAxes = wantsAxes(fitId, line);
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
    busy: keeping.isLoading || calibrating.isLoading || saving.isLoading,
    problem: problemOf(keeping.error ?? patching.error ?? calibrating.error ?? saving.error),
    async keep(piece) {
      const result = await keepEvidence({
        gadgetId: gadget.id,
        body: { channelId: channel.channel.id, evidence: piece },
      });
      return result.data ?? null;
    },
    async leaveOut(id, reason) {
      await patchEvidence({ id, patch: { excluded: reason } });
    },
    preview,
    previewAside,
    async use(ids, done) {
      // A line made before there was a correction in it gets one that changes nothing, for the version to fill in.
      if (needsAxes) {
        const channels = gadget.channels.map((c) =>
          alike.includes(c) ? { ...c, line: withNeutralAxes(c.line, c.line.sources[0]!.unit) } : c,
        );
        const saved = await patchGadget({ id: gadget.id, version: gadget.version, patch: { channels } });
        if (saved.error) return false;
      }
      const result = await calibrate({
        gadgetId: gadget.id,
        body: { channelIds: alike.map((c) => c.id), fit: fitId, evidenceIds: [...ids], note: '' },
      });
      if (!result.data) return false;
      dispatch(
        toastShown({ text: `${done} Calibration ${result.data.items[0]!.number} is in use.`, tone: 'done' }),
      );
      return true;
    },
  };
}
