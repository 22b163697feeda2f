import type { Recording } from '@lucky-needle/core/model';

export type Alignment =
  | { readonly kind: 'start' }
  | { readonly kind: 'mark'; readonly text: string }
  | { readonly kind: 'passes'; readonly level: number };

/** The moment of a run, in its own time, that is laid on the same moment of others; null where it has none. */
export function alignedAt(
  run: Pick<Recording, 'firstTimeS' | 'markers'>,
  reading: { readonly times: Float64Array; readonly values: Float64Array },
  alignment: Alignment,
): number | null {
  switch (alignment.kind) {
    case 'start':
      return run.firstTimeS;
    case 'mark':
      return run.markers.find((m) => m.text === alignment.text)?.timeS ?? null;
    case 'passes': {
      const { level } = alignment;
      const { times, values } = reading;
      for (let i = 1; i < values.length; i++) {
        const [a, b] = [values[i - 1]!, values[i]!];
        if ((a < level && b >= level) || (a > level && b <= level))
          return times[i - 1]! + ((level - a) / (b - a)) * (times[i]! - times[i - 1]!);
      }
      return null;
    }
  }
}
