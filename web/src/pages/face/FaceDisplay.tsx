import { useMemo, type ReactNode } from 'react';
import type { AlarmOutputs } from '@lucky-needle/core/alarm';
import {
  characterPage,
  pixelPage,
  spokenPage,
  type DisplayGrid,
  type PageContent,
} from '@lucky-needle/core/face';
import type { DisplayPart } from '@lucky-needle/core/model';
import { CharacterDisplay } from './CharacterDisplay.tsx';
import { PixelDisplay } from './PixelDisplay.tsx';

interface Props {
  readonly display: DisplayPart;
  readonly grid: DisplayGrid;
  readonly content: PageContent;
  readonly outputs: AlarmOutputs | null;
  /** What lies over the display while it is arranged. */
  readonly over?: ReactNode;
  /** What stands below it, on the gadget. */
  readonly below?: ReactNode;
  /** Takes all the room there is: nothing is said of what does not fit. */
  readonly fills?: boolean;
}

/** The display that was chosen, with what it has no room for. */
export function FaceDisplay({ display, grid, content, ...around }: Props) {
  const spoken = spokenPage(content);
  const face = useMemo(
    () =>
      grid.cellPx > 0
        ? { pixels: pixelPage(grid, content), characters: null }
        : { pixels: null, characters: characterPage(grid, content) },
    [grid, content],
  );
  const { misses } = face.pixels ?? face.characters;
  return (
    <>
      {face.pixels ? (
        <PixelDisplay
          face={face.pixels}
          shows={display.shows ?? 'reflective'}
          title={display.title}
          spoken={spoken}
          {...around}
        />
      ) : (
        <CharacterDisplay cells={face.characters.cells} spoken={spoken} {...around} />
      )}
      {misses.length > 0 && !around.fills && (
        <ul
          role="alert"
          className="panel grid gap-1 text-sm text-warning"
          aria-label="Does not fit on the display"
        >
          {[...new Set(misses)].map((miss) => (
            <li key={miss}>{miss}</li>
          ))}
        </ul>
      )}
    </>
  );
}
