import { BIG_DIGITS } from './bigDigits.ts';
import type { AlarmState } from './alarm.ts';

/** One cell of a character display: a letter, or a programmable cell of the big figures. */
export interface FaceCell {
  readonly text: string;
  /** F, U, L or B when the cell is part of a big figure. */
  readonly shape: string | null;
}

export interface FaceChannel {
  readonly label: string;
  /** Reading in the shown unit; NaN when bad. */
  readonly value: number;
  /** Unit as the display can write it, such as "C". */
  readonly unit: string;
}

export interface FaceContent {
  readonly columns: number;
  readonly rows: number;
  readonly big: FaceChannel;
  readonly list: readonly FaceChannel[];
  readonly decimals: number;
  readonly alarm: AlarmState;
}

const ALARM_WORDS: Record<AlarmState, string> = {
  ok: 'ok',
  caution: 'CAUTION',
  limit: 'LIMIT!',
  fault: 'FAULT',
};

/**
 * Lays out a big number and a list of rows on a character display: figures three rows high at the left, what they are
 * and the alarm in the row below, one channel a row at the right.
 * @throws {RangeError} when the display is smaller than 20 x 4, or more channels are listed than it has rows
 */
export function characterFace(content: FaceContent): FaceCell[][] {
  const { columns, rows } = content;
  if (columns < 20 || rows < 4) {
    throw new RangeError(
      `This face needs 20 x 4 characters; the display has ${columns} x ${rows}. Choose a larger display.`,
    );
  }
  if (content.list.length > rows) {
    throw new RangeError(
      `The display has ${rows} rows and ${content.list.length} channels are listed. Show fewer, or page them.`,
    );
  }
  const grid = Array.from({ length: rows }, () =>
    Array.from({ length: columns }, (): FaceCell => ({ text: ' ', shape: null })),
  );
  const { text, thousands } = bigText(content);
  writeBig(grid, text);
  const status = `${content.big.label}${thousands ? ' k' : ''} ${ALARM_WORDS[content.alarm]}`;
  writeText(grid, 3, 0, status.slice(0, 12));
  content.list.forEach((channel, row) => {
    const value = Number.isFinite(channel.value) ? channel.value.toFixed(content.decimals) : '--';
    writeText(
      grid,
      row,
      columns - 8,
      `${channel.label.slice(0, 1)}${(value + channel.unit.slice(0, 3)).padStart(7)}`.slice(0, 8),
    );
  });
  return grid;
}

/** The value as at most three figures with at most one decimal: what fits in twelve cells; a larger one in thousands. */
function bigText({ big, decimals }: FaceContent): { text: string; thousands: boolean } {
  if (!Number.isFinite(big.value)) return { text: '---', thousands: false };
  const thousands = big.value.toFixed(0).length > 3;
  const value = thousands ? big.value / 1000 : big.value;
  const oneDecimal = value.toFixed(thousands ? 1 : Math.min(1, decimals));
  const figures = (text: string) => text.replace('.', '').length;
  return { text: figures(oneDecimal) <= 3 ? oneDecimal : value.toFixed(0), thousands };
}

function writeBig(grid: FaceCell[][], text: string): void {
  let column = 0;
  for (const character of text) {
    if (character === '.') {
      // The point takes the gap to the next figure, at its foot.
      grid[2]![column - 1] = { text: '.', shape: null };
      continue;
    }
    const shapes = BIG_DIGITS[character] ?? BIG_DIGITS[' ']!;
    shapes.forEach((line, row) => {
      [...line].forEach((shape, i) => {
        if (shape !== ' ') grid[row]![column + i] = { text: shape, shape };
      });
    });
    column += 4;
  }
}

function writeText(grid: FaceCell[][], row: number, column: number, text: string): void {
  [...text].forEach((character, i) => {
    const line = grid[row];
    if (line && column + i < line.length) line[column + i] = { text: character, shape: null };
  });
}

/** Decimals worth showing for an expanded uncertainty: the last digit is about its size, at most `most`. */
export function faceDecimals(uncertainty: number, most = 2): number {
  if (!(uncertainty > 0) || !Number.isFinite(uncertainty)) return 0;
  return Math.min(most, Math.max(0, Math.ceil(-Math.log10(2 * uncertainty))));
}
