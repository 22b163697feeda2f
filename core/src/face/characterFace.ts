import { BIG_DIGITS } from './bigDigits.ts';
import type { AlarmLevel } from '../model/alarm.ts';

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
  /** Of all alarms the gravest; null where the gadget has none. */
  readonly alarm: AlarmLevel | null;
}

const ALARM_WORDS: Record<AlarmLevel, string> = {
  quiet: 'ok',
  caution: 'CAUTION',
  limit: 'LIMIT!',
  unknown: '?',
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
  const status = `${content.big.label}${thousands ? ' k' : ''} ${content.alarm ? ALARM_WORDS[content.alarm] : ''}`;
  writeText(grid, 3, 0, status.slice(0, 12));
  content.list.forEach((channel, row) => {
    const unit = channel.unit.slice(0, 3);
    const value = Number.isFinite(channel.value)
      ? fitting(channel.value, content.decimals, (text) => text.length + unit.length <= 7)
      : '--';
    writeText(
      grid,
      row,
      columns - 8,
      `${channel.label.slice(0, 1)}${(value + unit).padStart(7)}`.slice(0, 8),
    );
  });
  return grid;
}

/** The value in at most three figures, with as many of its decimals as leave room: what fits in twelve cells; a larger one in thousands. */
function bigText({ big, decimals }: FaceContent): { text: string; thousands: boolean } {
  if (!Number.isFinite(big.value)) return { text: '---', thousands: false };
  const thousands = big.value.toFixed(0).length > 3;
  const value = thousands ? big.value / 1000 : big.value;
  return {
    text: fitting(value, thousands ? 1 : decimals, (text) => text.replace('.', '').length <= 3),
    thousands,
  };
}

/** A number with as many decimals as it deserves and as fit; never a minus zero. */
function fitting(value: number, decimals: number, fits: (text: string) => boolean): string {
  for (let n = decimals; n > 0; n--) {
    const text = withoutMinusZero(value.toFixed(n));
    if (fits(text)) return text;
  }
  return withoutMinusZero(value.toFixed(0));
}

const withoutMinusZero = (text: string) => (Number(text) === 0 ? text.replace('-', '') : text);

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
