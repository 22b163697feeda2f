import { BIG_DIGITS } from './bigDigits.ts';
import { alarmWord, shortName, type FaceContent, type FaceReading } from './faceContent.ts';

/** One cell of a character display: a letter, or a programmable cell of the big figures. */
export interface FaceCell {
  readonly text: string;
  /** F, U, L or B when the cell is part of a big figure. */
  readonly shape: string | null;
}

export interface CharacterFace {
  readonly cells: readonly (readonly FaceCell[])[];
  /** What does not fit, each with a way out. */
  readonly misses: readonly string[];
}

/** Characters of the big figures, with a gap behind each. */
const FIGURE = 4;

/**
 * Lays out a face on a display of characters: one reading in figures three rows high where there is one and room for it, a
 * row for each otherwise; while an alarm is on the last row tells of it.
 */
export function characterFace(columns: number, rows: number, content: FaceContent): CharacterFace {
  const grid = Array.from({ length: rows }, () =>
    Array.from({ length: columns }, (): FaceCell => ({ text: ' ', shape: null })),
  );
  const misses: string[] = [];
  const big = content.readings[content.big];
  if (!big) return { cells: grid, misses: ['There is nothing to show. Build a line first.'] };
  const word = alarmWord(content.alarm);
  if (content.readings.length === 1 && rows >= 4 && big.text !== null && figuresFit(big, columns)) {
    writeBig(grid, big.text);
    const at = [...big.text].reduce((n, c) => n + (c === '.' ? 0 : FIGURE), 0);
    write(grid, 2, at, big.unit);
    if (big.worth) write(grid, 1, at, big.worth);
    const name = cut(big.name, columns - (word ? word.length + 1 : 0));
    write(grid, 3, 0, word ? `${name.padEnd(columns - word.length)}${word}` : name);
    return { cells: grid, misses };
  }
  const room = word && content.readings.length >= rows ? rows - 1 : rows;
  // Rows that change places cannot be read: only where not all have one the big one comes first.
  const all =
    content.readings.length <= room
      ? content.readings
      : [big, ...content.readings.filter((_, k) => k !== content.big)];
  const shown = all.slice(0, room);
  shown.forEach((reading, k) => write(grid, k, 0, lineOf(reading, columns, misses)));
  if (shown.length < all.length)
    misses.push(
      `${all.length - shown.length} of ${all.length} channels do not fit${word ? ' beside the alarm' : ''}: ${all
        .slice(shown.length)
        .map((r) => r.name)
        .join(', ')}. Choose a display with more rows.`,
    );
  if (word) write(grid, rows - 1, 0, cut(`${word} ${content.alarm!.name}`, columns));
  return { cells: grid, misses };
}

function lineOf(reading: FaceReading, columns: number, misses: string[]): string {
  const value = ascii(reading.text === null ? reading.state : `${reading.text} ${reading.unit}`.trim());
  const alone = shortened(ascii(reading.text ?? ''), columns);
  if (value.length > columns && alone && alone.length <= columns) {
    misses.push(`There is no room for its unit: write “${ascii(reading.unit)}” beside the display.`);
    return alone.padStart(columns);
  }
  if (value.length > columns) {
    misses.push(`${reading.name}: “${value}” is wider than the display. Choose a wider one.`);
    return value.slice(0, columns);
  }
  const room = columns - value.length - 1;
  return cut(shortName(reading.name, room), room).padEnd(room + 1) + value;
}

/** What a character display can write: its own figures and letters, with a degree sign as they have one. */
const ascii = (text: string) =>
  text.replace(/µ/g, 'u').replace(/Ω/g, 'Ohm').replace(/²/g, '2').replace(/³/g, '3').replace(/[−–]/g, '-');

/** A number with fewer decimals where it is wider than there is room. */
function shortened(text: string, room: number): string {
  let short = text;
  while (short.length > room && short.includes('.')) {
    const decimals = short.length - short.indexOf('.') - 1;
    short = Number(text).toFixed(decimals - 1);
  }
  return short;
}

const cut = (text: string, room: number): string => {
  const plain = ascii(text);
  return plain.length <= room ? plain : room < 2 ? '' : `${plain.slice(0, room - 1).trimEnd()}.`;
};

function figuresFit({ text, unit, worth }: FaceReading, columns: number): boolean {
  const figures = [...text!].filter((c) => c !== '.');
  return (
    figures.every((c) => c in BIG_DIGITS) &&
    FIGURE * figures.length + Math.max(ascii(unit).length, worth.length) <= columns
  );
}

function writeBig(grid: FaceCell[][], text: string): void {
  let column = 0;
  for (const character of text) {
    if (character === '.') {
      // The point takes the gap to the next figure, at its foot.
      grid[2]![column - 1] = { text: '.', shape: null };
      continue;
    }
    BIG_DIGITS[character]!.forEach((line, row) => {
      [...line].forEach((shape, i) => {
        if (shape !== ' ') grid[row]![column + i] = { text: shape, shape };
      });
    });
    column += FIGURE;
  }
}

function write(grid: FaceCell[][], row: number, column: number, text: string): void {
  [...ascii(text)].forEach((character, i) => {
    const line = grid[row];
    if (line && column + i < line.length) line[column + i] = { text: character, shape: null };
  });
}
