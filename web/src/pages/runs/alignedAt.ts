import type { Recording } from '@lucky-needle/core/model';

export type Alignment =
  | { readonly kind: 'start' }
  | { readonly kind: 'mark'; readonly text: string }
  | { readonly kind: 'passes'; readonly level: number };

/**
 * The moment of a run, in its own time, that is laid on the same moment of others; null where it has none.
 * @param passesAtS when its reading first passes the value that is aligned by; null when it does not
 */
export function alignedAt(
  run: Pick<Recording, 'firstTimeS' | 'markers'>,
  alignment: Alignment,
  passesAtS: number | null,
): number | null {
  switch (alignment.kind) {
    case 'start':
      return run.firstTimeS;
    case 'mark':
      return run.markers.find((m) => m.text === alignment.text)?.timeS ?? null;
    case 'passes':
      return passesAtS;
  }
}
