import type { Canvas } from '../canvas.ts';
import type { CharacterGrid } from '../characterGrid.ts';
import type { FaceAlarm, FaceReading } from '../faceContent.ts';
import type { Box } from '../visuals.ts';

/** How a race stands, as a stopwatch shows it. */
export interface Race {
  /** Nothing is heard yet; waiting for the start; under way; done. */
  readonly state: 'set' | 'ready' | 'running' | 'result';
  /** Seconds so far, or of the newest result, printed; null before the first. */
  readonly text: string | null;
}

/** Sizes by frequency of the newest readings. */
export interface FaceSpectrum {
  readonly hz: readonly number[];
  readonly size: readonly number[];
}

/** What a widget has to show: all texts are made. */
export interface WidgetSeen {
  /** Null for one that shows no channel, or whose channel is gone. */
  readonly reading: FaceReading | null;
  /** Lowest and highest since the reset, printed with their unit's digits; null while nobody keeps them. */
  readonly extremes: readonly [low: string, high: string] | null;
  readonly race: Race | null;
  readonly spectrum: FaceSpectrum | null;
  readonly alarm: FaceAlarm;
  /** Its own words, or the name of what it shows. */
  readonly title: string;
}

/** The contract of every widget: one file in core/src/face/widgets declares one. */
export interface FaceWidgetKind {
  readonly kind: string;
  readonly title: string;
  readonly summary: string;
  /** What the channel must be, or give, for it. */
  readonly wants: 'reading' | 'direction' | 'race' | 'none';
  /** Figures that it needs of its channel, by what they are: kept by the bench, and begun anew by a reset. */
  readonly keeps?: readonly ('lowest' | 'highest')[];
  /** The room that it starts with, in shares of the display. */
  readonly starts: readonly [width: number, height: number];
  /** Draws itself within a box, and names what does not fit. */
  draw(canvas: Canvas, box: Box, seen: WidgetSeen, misses: string[]): void;
  /** The same on a display of characters, within so many columns and rows; not there where characters cannot show it. */
  write?(grid: CharacterGrid, seen: WidgetSeen, misses: string[]): void;
}
