import { startingPages, type DisplayGrid } from '@lucky-needle/core/face';
import type { FacePage, FaceSpec, Gadget } from '@lucky-needle/core/model';
import type { GadgetPlan } from '@lucky-needle/core/plan';
import { alike } from './bigReading.ts';
import { hasEnds } from './faceReading.ts';
import type { ChannelReading } from './useFaceReadings.ts';

/** The face that a gadget has until the maker says otherwise: the display that was picked, whichever reading is highest in big. */
export const proposedFace = (
  gadget: Gadget,
  plan: GadgetPlan | null,
  readings: readonly ChannelReading[],
): FaceSpec => ({
  displayId: plan?.display?.id ?? 'character-20x4',
  bigChannelId: alike(readings).length > 1 ? 'highest' : (readings[0]?.id ?? gadget.channels[0]!.id),
});

/** The layout that a face starts with on a display. */
export const startingFace = (
  grid: DisplayGrid,
  { bigChannelId, look }: FaceSpec,
  readings: readonly ChannelReading[],
): FacePage[] =>
  startingPages(
    grid,
    readings.map((r) => ({ id: r.id, isDirection: r.isDirection, hasRange: hasEnds(r) })),
    bigChannelId,
    look ?? 'auto',
  );
