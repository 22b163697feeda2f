import { figure } from './figure.ts';
import { extremes, peak } from './held.ts';
import type { FaceWidgetKind } from './kind.ts';
import { label } from './label.ts';
import { row } from './row.ts';
import { spectrum } from './spectrum.ts';
import { states } from './states.ts';
import { stopwatch } from './stopwatch.ts';
import { bar, dial, rose, trend } from './visual.ts';

/** Every widget, in the order the Face page offers them. A new one is one file and one line here. */
export const FACE_WIDGETS: readonly FaceWidgetKind[] = [
  figure,
  row,
  dial,
  bar,
  trend,
  rose,
  peak,
  extremes,
  stopwatch,
  spectrum,
  states,
  label,
];

const BY_KIND = new Map(FACE_WIDGETS.map((kind) => [kind.kind, kind]));

export const faceWidget = (kind: string): FaceWidgetKind | undefined => BY_KIND.get(kind);
