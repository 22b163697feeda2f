import Papa from 'papaparse';

/**
 * A table as RFC 4180 text. A cell that a spreadsheet would take for a formula is given a quote before it: names come from
 * makers and files.
 */
export const delimitedText = (
  rows: readonly (readonly (string | number)[])[],
  delimiter: ',' | '\t' = ',',
): string =>
  Papa.unparse(rows as (string | number)[][], { delimiter, newline: '\r\n', escapeFormulae: true });
