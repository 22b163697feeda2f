import { faceSpectrum } from '@lucky-needle/core/face';
import type { FaceFrame, Gadget } from '@lucky-needle/core/model';

interface Newest {
  readonly times: ArrayLike<number>;
  readonly values: ArrayLike<number>;
  readonly reasons: ArrayLike<number>;
}

/** Digits of a size: a line of a spectrum is some thirty pixels high. */
const DIGITS = 4;

/** The channels that the face shows by frequency. */
export function channelsBySpectrum({ face, channels }: Gadget): ReadonlySet<string> {
  const shown = (face?.pages ?? [])
    .flatMap((p) => p.widgets)
    .filter((w) => w.kind === 'spectrum')
    .map((w) => w.channelId);
  // Whichever reads highest can be any of them.
  return new Set(shown.includes('highest') ? channels.map((c) => c.id) : shown);
}

/** Their spectra as they stand; a channel with too few readings has none. */
export const shownSpectra = (
  channelIds: ReadonlySet<string>,
  newest: (channelId: string) => Newest | null,
): FaceFrame['spectra'] =>
  [...channelIds].flatMap((channelId) => {
    const readings = newest(channelId);
    const spectrum = readings && faceSpectrum(readings);
    if (!spectrum) return [];
    return [
      { channelId, stepHz: spectrum.hz[0]!, size: spectrum.size.map((s) => Number(s.toPrecision(DIGITS))) },
    ];
  });
