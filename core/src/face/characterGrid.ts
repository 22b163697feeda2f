import { BIG_DIGITS } from './bigDigits.ts';
import type { FaceReading } from './faceContent.ts';

/** One cell of a character display: a letter, or a programmable cell of the big figures. */
export interface FaceCell {
  readonly text: string;
  /** F, U, L or B when the cell is part of a big figure. */
  readonly shape: string | null;
}

/** Characters of the big figures, with a gap behind each. */
const FIGURE = 4;

/** Part of a character display; what would leave it is cut off. */
export class CharacterGrid {
  readonly columns: number;
  readonly rows: number;
  private readonly cells: FaceCell[][];
  private readonly x: number;
  private readonly y: number;

  constructor(columns: number, rows: number, cells = blank(columns, rows), x = 0, y = 0) {
    this.columns = columns;
    this.rows = rows;
    this.cells = cells;
    this.x = x;
    this.y = y;
  }

  get all(): readonly (readonly FaceCell[])[] {
    return this.cells;
  }

  /** A part of it, cut to what is there. */
  part(x: number, y: number, columns: number, rows: number): CharacterGrid {
    const [w, h] = [Math.min(columns, this.columns - x), Math.min(rows, this.rows - y)];
    return new CharacterGrid(Math.max(0, w), Math.max(0, h), this.cells, this.x + x, this.y + y);
  }

  write(column: number, row: number, text: string): void {
    [...asCharacters(text)].forEach((character, i) =>
      this.set(column + i, row, { text: character, shape: null }),
    );
  }

  /** A row that is full from end to end. */
  line(row: number, text: string): void {
    this.write(0, row, cut(text, this.columns).padEnd(this.columns));
  }

  /** Figures three rows high, from the left. @returns the column behind them */
  figures(text: string): number {
    let column = 0;
    for (const character of asCharacters(text)) {
      if (character === '.') {
        // The point takes the gap to the next figure, at its foot.
        this.set(column - 1, 2, { text: '.', shape: null });
        continue;
      }
      BIG_DIGITS[character]!.forEach((line, row) =>
        [...line].forEach((shape, i) => {
          if (shape !== ' ') this.set(column + i, row, { text: shape, shape });
        }),
      );
      column += FIGURE;
    }
    return column;
  }

  /** A cell that is full, or one half of it. */
  block(column: number, row: number, shape: 'F' | 'L'): void {
    this.set(column, row, { text: shape, shape });
  }

  private set(column: number, row: number, cell: FaceCell): void {
    if (column >= 0 && row >= 0 && column < this.columns && row < this.rows)
      this.cells[this.y + row]![this.x + column] = cell;
  }
}

const blank = (columns: number, rows: number): FaceCell[][] =>
  Array.from({ length: rows }, () => Array.from({ length: columns }, () => ({ text: ' ', shape: null })));

/** What a character display can write: its own figures and letters, with a degree sign as they have one. */
export const asCharacters = (text: string): string =>
  text
    .replace(/µ/g, 'u')
    .replace(/Ω/g, 'Ohm')
    .replace(/²/g, '2')
    .replace(/³/g, '3')
    .replace(/[−–]/g, '-')
    .replace(/…/g, '..');

/** As much of a text as there is room for, with a point where some is left out. */
export const cut = (text: string, room: number): string => {
  const plain = asCharacters(text);
  return plain.length <= room ? plain : room < 2 ? '' : `${plain.slice(0, room - 1).trimEnd()}.`;
};

/** Whether a reading fits in figures three rows high, with its unit behind them. */
export function figuresFit({ text, unit, worth }: FaceReading, columns: number): boolean {
  const figures = [...asCharacters(text!)].filter((c) => c !== '.');
  return (
    figures.every((c) => c in BIG_DIGITS) &&
    FIGURE * figures.length + Math.max(asCharacters(unit).length, worth.length) <= columns
  );
}
