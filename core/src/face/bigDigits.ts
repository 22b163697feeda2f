/**
 * Digits three cells high and three wide from a character display's own programmable cells. Each letter names a cell
 * shape: F full, U bar along the top, L bar along the bottom, B bars at both, space blank.
 */
export const BIG_DIGITS: Record<string, readonly [string, string, string]> = {
  '0': ['FUF', 'F F', 'FLF'],
  '1': ['UF ', ' F ', 'LFL'],
  '2': ['UUF', 'FUU', 'FLL'],
  '3': ['UUF', ' UF', 'LLF'],
  '4': ['F F', 'UUF', '  F'],
  '5': ['FUU', 'UUF', 'LLF'],
  '6': ['FUU', 'FUF', 'FLF'],
  '7': ['UUF', '  F', '  F'],
  '8': ['FUF', 'FUF', 'FLF'],
  '9': ['FUF', 'UUF', 'LLF'],
  '-': ['   ', 'UUU', '   '],
  ' ': ['   ', '   ', '   '],
};
