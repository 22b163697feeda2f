/** The lines a board would print: a header once, then its own milliseconds and one count a column. */
export const boardHeader = (columns: readonly string[]) => ['ms', ...columns].join(',');

export const boardLine = (timeS: number, counts: readonly number[]) =>
  [Math.round(timeS * 1000), ...counts].join(',');
