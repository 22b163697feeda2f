import type { ChannelReading } from './useFaceReadings.ts';
import type { LiveCounts } from '../../live/liveClient.ts';
import type { FaceAlarm, FaceSpectrum } from '@lucky-needle/core/face';

/** All that a face can show at one moment: of the live bench, or of a run that is played. */
export interface FaceSource {
  readonly readings: readonly ChannelReading[];
  /** Figures and events, by channel. */
  readonly counts: ReadonlyMap<string, LiveCounts>;
  /** Sizes by frequency of the newest readings of a channel; null while they are too few. */
  spectrum(channelId: string): FaceSpectrum | null;
  /** The gadget's clock; NaN while nothing is heard. */
  readonly nowS: number;
  /** Why nothing is heard; null while it is. */
  readonly silent: string | null;
  /** How long parts still warm up, as minutes and seconds; null when they are warm. */
  readonly warming: string | null;
  readonly alarm: FaceAlarm;
}
