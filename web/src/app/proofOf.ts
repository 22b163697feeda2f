import { calibratedLine } from '@lucky-needle/core/calibrate';
import { compileLine, LineError } from '@lucky-needle/core/line';
import { briefFor, trueUpChannel } from '@lucky-needle/core/plan';
import { proveChannel } from '@lucky-needle/core/prove';
import type { BenchContext } from './useBench.ts';

/**
 * Claims shown over all channels; null when there is nothing to judge.
 * @param achievedHz readings a second that really come; null while none do
 */
export function proofOf(
  bench: BenchContext,
  achievedHz: number | null,
): { shown: number; of: number; failed: boolean } | null {
  const { gadget } = bench;
  if (!gadget.brief) return null;
  try {
    const proofs = gadget.channels.flatMap((channel) => {
      const brief = briefFor(gadget, channel);
      if (!brief) return [];
      // What goes on from another channel rests on that one's proof.
      if (trueUpChannel(gadget, channel).id !== channel.id) return [];
      const { line, calibration } = calibratedLine(channel.line, channel.id, bench.calibrations);
      return proveChannel({
        line: compileLine(line, { sampleRateHz: gadget.sampleRateHz }),
        brief,
        calibration,
        points: bench.points.filter((p) => p.channelId === channel.id),
        achievedHz,
      });
    });
    const claims = proofs.flatMap((p) => p.claims);
    return {
      shown: claims.filter((c) => c.state === 'pass').length,
      of: claims.length,
      failed: claims.some((c) => c.state === 'fail'),
    };
  } catch (error) {
    if (error instanceof LineError || error instanceof RangeError) return null;
    throw error;
  }
}
