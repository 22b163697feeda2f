import { useMemo, useRef } from 'react';
import { pageAsked } from '@lucky-needle/core/alarm';
import { displayGrid } from '@lucky-needle/core/face';
import type { FaceFrame, Gadget } from '@lucky-needle/core/model';
import { partsOf } from '@lucky-needle/core/plan';
import { useFaceNowQuery } from '../../api/alarmApi.ts';
import { usePlan, useShelf } from '../../app/useShelf.ts';
import { FaceDisplay } from '../face/FaceDisplay.tsx';
import { faceOfFrame, shownChannels } from '../face/faceOfFrame.ts';
import { pageContentOf } from '../face/pageContentOf.ts';
import { proposedFace, startingFace } from '../face/shownFace.ts';
import { useTurning } from '../face/useTurning.ts';

/** So many frames are kept for trends. */
const PAST = 120;

/** The pages of a gadget's face on its own display, as large as the tile has room for. @param everyMs how often it asks */
export function WallDisplay({ gadget, everyMs }: { gadget: Gadget; everyMs: number }) {
  const { data, isError } = useFaceNowQuery(gadget.id, { pollingInterval: everyMs });
  const shelf = useShelf();
  const plan = usePlan(gadget);
  const known = useMemo(() => shownChannels(gadget, []), [gadget]);
  const frame = data?.frames[0];
  const past = usePast(frame);
  const source = useMemo(() => {
    if (!data || !frame) return null;
    const now = isError ? { ...frame, silent: 'the server is not responding', alarms: [] } : frame;
    return faceOfFrame(gadget, known, now, data.events, past);
  }, [data, frame, isError, gadget, known, past]);
  const readings = source?.readings ?? [];
  const face = gadget.face ?? proposedFace(gadget, plan, readings);
  const displays = partsOf(shelf, 'display');
  const display = displays.find((d) => d.id === face.displayId) ?? displays[0];
  const grid = useMemo(() => display && displayGrid(display), [display]);
  const pages = face.pages ?? (grid ? startingFace(grid, face, readings) : []);
  const turning = useTurning(pages.length, face.turnS ?? null, false);
  if (!source || !display || !grid || readings.length === 0)
    return (
      <p className="muted p-4">{data ? 'No signal line on this gadget gives a reading yet.' : 'Loading…'}</p>
    );
  const asked = pageAsked(gadget.alarms ?? [], source.alarms);
  const page = pages[asked !== null && asked < pages.length ? asked : turning.page];
  if (!page) return null;
  return (
    <FaceDisplay
      fills
      display={display}
      grid={grid}
      content={pageContentOf(gadget, page, source, null)}
      outputs={null}
    />
  );
}

/** What was shown before, for trends: each moment once. */
function usePast(frame: FaceFrame | undefined): readonly FaceFrame[] {
  const past = useRef<readonly FaceFrame[]>([]);
  return useMemo(() => {
    if (frame && frame.timeS !== past.current.at(-1)?.timeS)
      past.current = [...past.current.slice(1 - PAST), frame];
    return past.current;
  }, [frame]);
}
