import { printNumber } from '../units/index.ts';
import { asCharacters, cut, type CharacterGrid } from './characterGrid.ts';
import { shortName } from './faceContent.ts';

/** A name on the left and its value on the right, in one row of characters. */
export function rowOfCharacters(
  grid: CharacterGrid,
  row: number,
  name: string,
  text: string,
  unit: string,
  misses: string[],
): void {
  const { columns } = grid;
  const value = asCharacters(`${text} ${unit}`.trim());
  const alone = shortened(asCharacters(text), columns);
  if (value.length > columns && unit && alone.length <= columns) {
    misses.push(`No room for the unit. Write “${asCharacters(unit)}” next to the display.`);
    grid.line(row, alone.padStart(columns));
    return;
  }
  if (value.length > columns) {
    misses.push(`${name}: “${value}” is too wide for the display. Choose a wider one.`);
    grid.line(row, value.slice(0, columns));
    return;
  }
  const room = columns - value.length - 1;
  grid.line(row, cut(shortName(name, room), room).padEnd(room + 1) + value);
}

/** A number with fewer decimals where it is wider than there is room. */
function shortened(text: string, room: number): string {
  let short = text;
  while (short.length > room && short.includes('.')) {
    const decimals = short.length - short.indexOf('.') - 1;
    short = asCharacters(printNumber(Number(text), decimals - 1));
  }
  return short;
}
