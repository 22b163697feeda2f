import type { DisplayPart } from '../model/part.ts';

/** The size of a display, and the cells in which things are placed on it. */
export interface DisplayGrid {
  readonly columns: number;
  readonly rows: number;
  /** Pixels of a cell, across and down; 0 on a display of characters, where a cell is a character. */
  readonly cellPx: number;
  readonly widthPx: number;
  readonly heightPx: number;
}

/** Fine enough to stand things side by side, coarse enough that edges meet. */
const CELL_PX = 4;

export function displayGrid({
  widthPx,
  heightPx,
  columns,
  rows,
}: Pick<DisplayPart, 'widthPx' | 'heightPx' | 'columns' | 'rows'>): DisplayGrid {
  if (widthPx === 0 || heightPx === 0) return { columns, rows, cellPx: 0, widthPx: 0, heightPx: 0 };
  return {
    columns: Math.floor(widthPx / CELL_PX),
    rows: Math.floor(heightPx / CELL_PX),
    cellPx: CELL_PX,
    widthPx,
    heightPx,
  };
}
