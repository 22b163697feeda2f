import type { FaceWidget } from '../model/face.ts';
import { Canvas } from './canvas.ts';
import { CharacterGrid, type FaceCell } from './characterGrid.ts';
import type { DisplayGrid } from './displayGrid.ts';
import { alarmWord } from './faceContent.ts';
import type { WidgetSeen } from './widgets/kind.ts';
import { faceWidget } from './widgets/registry.ts';
import { states } from './widgets/states.ts';

/** A widget in its place, with what it has to show. */
export interface PlacedWidget {
  readonly spec: FaceWidget;
  readonly seen: WidgetSeen;
}

export interface PageContent {
  readonly widgets: readonly PlacedWidget[];
  readonly alarm: WidgetSeen['alarm'];
}

/** A page as a display of pixels would show it. */
export interface PixelFace {
  readonly width: number;
  readonly height: number;
  /** Row by row, what each pixel is painted with (`INK`). */
  readonly pixels: Uint8Array;
  /** What does not fit, each with a way out. */
  readonly misses: readonly string[];
  /** Pixels that fell outside; 0 when nothing is clipped. */
  readonly outside: number;
}

export interface CharacterFace {
  readonly cells: readonly (readonly FaceCell[])[];
  readonly misses: readonly string[];
}

const EMPTY = 'This page is empty. Add an item.';

/** Draws a page on a display of pixels. An alarm that no widget tells of is painted over the top: it is never left out. */
export function pixelPage(grid: DisplayGrid, { widgets, alarm }: PageContent): PixelFace {
  const canvas = new Canvas(grid.widthPx, grid.heightPx);
  const misses: string[] = widgets.length === 0 ? [EMPTY] : [];
  for (const { spec, seen } of widgets) {
    const kind = faceWidget(spec.kind);
    const fault = placeFault(grid, spec);
    if (!kind || fault) misses.push(fault ?? strangerFault(spec.kind));
    else kind.draw(canvas, boxOf(grid, spec), seen, misses);
  }
  if (isUntold(widgets, alarm)) {
    const height = Math.min(grid.heightPx, grid.heightPx < 100 ? 16 : 20);
    canvas.clear(0, 0, grid.widthPx, height);
    const box = { x: 0, y: 0, width: grid.widthPx, height };
    states.draw(canvas, box, { ...NOTHING, alarm }, misses);
  }
  return {
    width: grid.widthPx,
    height: grid.heightPx,
    pixels: canvas.pixels,
    misses,
    outside: canvas.outside,
  };
}

/** The same on a display of characters; an alarm that no widget tells of takes the last row. */
export function characterPage(grid: DisplayGrid, { widgets, alarm }: PageContent): CharacterFace {
  const cells = new CharacterGrid(grid.columns, grid.rows);
  const misses: string[] = widgets.length === 0 ? [EMPTY] : [];
  for (const { spec, seen } of widgets) {
    const kind = faceWidget(spec.kind);
    const fault = placeFault(grid, spec);
    if (!kind || fault) misses.push(fault ?? strangerFault(spec.kind));
    else if (!kind.write)
      misses.push(
        `${kind.title} (${seen.title}) does not work on a character display. Choose a graphic display or remove the item.`,
      );
    else kind.write(cells.part(spec.x, spec.y, spec.width, spec.height), seen, misses);
  }
  if (isUntold(widgets, alarm)) {
    const last = grid.rows - 1;
    states.write!(cells.part(0, last, grid.columns, 1), { ...NOTHING, alarm }, misses);
    const hidden = widgets.filter(({ spec }) => spec.y + spec.height > last);
    for (const { seen } of hidden)
      misses.push(
        `${seen.title} is covered by the alarm. Choose a display with more rows, or add “${states.title}” to the page.`,
      );
  }
  return { cells: cells.all, misses };
}

/** A box in pixels; what reaches to the last cell reaches to the edge of the display. */
export function boxOf({ cellPx, columns, rows, widthPx, heightPx }: DisplayGrid, at: FaceWidget) {
  const [x, y] = [at.x * cellPx, at.y * cellPx];
  const right = at.x + at.width >= columns ? widthPx : (at.x + at.width) * cellPx;
  const foot = at.y + at.height >= rows ? heightPx : (at.y + at.height) * cellPx;
  return { x, y, width: right - x, height: foot - y };
}

function placeFault({ columns, rows }: DisplayGrid, { kind, x, y, width, height }: FaceWidget) {
  if (x + width <= columns && y + height <= rows) return null;
  const title = faceWidget(kind)?.title ?? kind;
  return `${title} at column ${x + 1}, row ${y + 1} extends beyond the display. Move it, or arrange the page again.`;
}

const strangerFault = (kind: string) => `Unknown item “${kind}”. Remove it.`;

const isUntold = (widgets: readonly PlacedWidget[], alarm: WidgetSeen['alarm']): boolean =>
  alarmWord(alarm) !== '' &&
  alarm!.level !== 'unknown' &&
  !widgets.some(({ spec }) => spec.kind === states.kind);

const NOTHING: WidgetSeen = {
  reading: null,
  extremes: null,
  race: null,
  spectrum: null,
  alarm: null,
  title: '',
};

/** What a page reads out, for those who hear it. */
export function spokenPage({ widgets, alarm }: PageContent): string {
  const told = new Map<string, string>();
  for (const { spec, seen } of widgets) {
    const { reading: r, race, extremes: ends } = seen;
    if (!r || spec.kind === 'states' || spec.kind === 'label') continue;
    const value = r.text === null ? `${r.state} ${r.detail}`.trim() : `${r.text} ${r.unit}`.trim();
    if (race && spec.kind === 'stopwatch')
      told.set(
        `race ${spec.id}`,
        `${seen.title} ${race.state} ${race.text === null ? '' : `${race.text} s`}`.trim(),
      );
    else if (ends && spec.kind === 'peak')
      told.set(`peak ${r.name}`, `${seen.title} highest ${ends[1]} ${r.unit}`);
    else if (ends && spec.kind === 'extremes')
      told.set(`ends ${r.name}`, `${seen.title} ${ends[0]} to ${ends[1]} ${r.unit}`);
    else told.set(`${r.name} ${r.unit}`, `${r.name} ${value}`);
  }
  const word = alarm?.level === 'unknown' ? 'alarm status unknown' : alarmWord(alarm);
  return [...told.values(), ...(word ? [`${word} ${alarm!.name}`.trim()] : [])].join('; ');
}
