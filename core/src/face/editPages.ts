import type { FacePage, FaceWidget } from '../model/face.ts';
import type { DisplayGrid } from './displayGrid.ts';
import { faceWidget } from './widgets/registry.ts';

/** Where something is to be, in cells; what is left out stays. */
export type Place = Partial<Pick<FaceWidget, 'x' | 'y' | 'width' | 'height'>>;

/** Least cells of a widget on a display of pixels: less than the smallest letters. */
const LEAST = 2;

/** The page with one widget placed elsewhere, kept within the display. */
export function placed(grid: DisplayGrid, page: FacePage, id: string, place: Place): FacePage {
  return changed(page, id, (w) => within(grid, { ...w, ...place }));
}

export const changed = (page: FacePage, id: string, to: (w: FaceWidget) => FaceWidget): FacePage => ({
  ...page,
  widgets: page.widgets.map((w) => (w.id === id ? to(w) : w)),
});

export const without = (page: FacePage, id: string): FacePage => ({
  ...page,
  widgets: page.widgets.filter((w) => w.id !== id),
});

/** The page with one more widget, in the first free place that is large enough, or over the others where there is none. */
export function withWidget(
  grid: DisplayGrid,
  page: FacePage,
  kind: string,
  channelId: string,
  figureId: string | null = null,
): FacePage {
  const [w, h] = faceWidget(kind)?.starts ?? [1, 0.3];
  const width = Math.max(1, Math.round(w * grid.columns));
  const least = grid.cellPx === 0 ? 1 : LEAST + 1;
  const height = Math.min(grid.rows, Math.max(least, Math.round(h * grid.rows)));
  const ids = new Set(page.widgets.map((p) => p.id));
  let k = page.widgets.length + 1;
  while (ids.has(`w${k}`)) k++;
  const { x, y } = freePlace(grid, page.widgets, width, height) ?? { x: 0, y: grid.rows - height };
  const widget: FaceWidget = { id: `w${k}`, kind, channelId, figureId, text: '', x, y, width, height };
  return { ...page, widgets: [...page.widgets, widget] };
}

function freePlace(
  { columns, rows }: DisplayGrid,
  taken: readonly FaceWidget[],
  width: number,
  height: number,
) {
  for (let y = 0; y + height <= rows; y++)
    for (let x = 0; x + width <= columns; x++)
      if (!taken.some((t) => x < t.x + t.width && t.x < x + width && y < t.y + t.height && t.y < y + height))
        return { x, y };
  return null;
}

function within({ columns, rows, cellPx }: DisplayGrid, w: FaceWidget): FaceWidget {
  const least = cellPx === 0 ? 1 : LEAST;
  const width = clamp(w.width, least, columns);
  const height = clamp(w.height, least, rows);
  return {
    ...w,
    width,
    height,
    x: clamp(w.x, 0, columns - width),
    y: clamp(w.y, 0, rows - height),
  };
}

const clamp = (v: number, low: number, high: number) => Math.min(high, Math.max(low, Math.round(v)));
