import { useMemo } from 'react';
import { useOutletContext } from 'react-router';
import { calibrationFault } from '@lucky-needle/core/calibrate';
import type { CalibrationCovariance } from '@lucky-needle/core/line';
import { briefFor, calibrationInUse, covarianceOf, trueUpChannel, wholeLine } from '@lucky-needle/core/plan';
import type {
  Calibration,
  CalibrationPoint,
  Channel,
  ChannelBrief,
  EvidencePoint,
  Gadget,
  JudgedStudy,
  LineSpec,
  Link,
  Recording,
} from '@lucky-needle/core/model';
import { pooledNoise } from '@lucky-needle/core/prove';
import type { ProofNow } from '../live/useProof.ts';
import { draftKey } from './drafts.ts';
import { useAppSelector } from './store.ts';
import { useAddressChoice } from './useAddressChoice.ts';

/** What every page of a gadget works with; given by the gadget's shell once all of it is loaded. */
export interface BenchContext {
  readonly gadget: Gadget;
  readonly points: CalibrationPoint[];
  readonly evidence: EvidencePoint[];
  readonly calibrations: Calibration[];
  readonly recordings: Recording[];
  readonly studies: JudgedStudy[];
  /** What is shown of it, as the server has worked it out. */
  readonly proof: ProofNow;
  readonly link: Link | null;
}

export function useBench(): BenchContext {
  return useOutletContext<BenchContext>();
}

export interface ChannelContext {
  readonly channel: Channel;
  /** What the channel is judged by, in the quantity that its line ends in; null without a brief. */
  readonly brief: ChannelBrief | null;
  /** Chooses another channel, kept in the address. */
  choose(channelId: string): void;
  /** The line as bought, with unsaved changes from the Line page. */
  readonly base: LineSpec;
  /** From the raw columns on, behind what it goes on from, with the calibrations in use. */
  readonly line: LineSpec;
  /** Of the channel itself, or of the one that it goes on from. */
  readonly calibration: Calibration | null;
  readonly covariance: CalibrationCovariance | null;
  readonly points: CalibrationPoint[];
  readonly noiseRaw: number | null;
}

/** The channel chosen in the address (?ch=), or the one that a page is about, or the first. */
export function useChannel(bench: BenchContext, about?: string): ChannelContext {
  const [chosen, choose] = useAddressChoice('ch');
  const { channels } = bench.gadget;
  const channel =
    channels.find((c) => c.id === chosen) ?? channels.find((c) => c.id === about) ?? channels[0]!;
  const draft = useAppSelector((state) => state.drafts[draftKey(bench.gadget.id, channel.id)]?.present);
  const base = draft ?? channel.line;
  return useMemo(() => {
    const line = wholeLine(bench.gadget, channel, bench.calibrations, base);
    const owner = trueUpChannel(bench.gadget, channel);
    const used = calibrationInUse(bench.gadget, channel, bench.calibrations);
    // A draft may have lost the stage that the calibration edits: the base line then stands alone.
    const own = owner.id === channel.id ? base : owner.line;
    const calibration = used && calibrationFault(own, used) === null ? used : null;
    const points = bench.points.filter((p) => p.channelId === owner.id);
    return {
      channel,
      brief: briefFor(bench.gadget, { ...channel, line: base }),
      choose,
      base,
      line,
      calibration,
      covariance: calibration && covarianceOf(bench.gadget, channel, bench.calibrations, calibration),
      points,
      noiseRaw: pooledNoise(points.filter((p) => p.excluded === null)),
    };
  }, [bench, base, channel, choose]);
}
