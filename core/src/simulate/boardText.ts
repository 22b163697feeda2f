/** The lines a board would print: a header once, then its own milliseconds and one count a column. */
export const boardHeader = (columns: readonly string[]) => ['ms', ...columns].join(',');

/** Milliseconds to the microsecond: a fast board's readings lie closer than one apart. */
export const boardLine = (timeS: number, counts: readonly number[]) =>
  [Number((timeS * 1000).toFixed(3)), ...counts].join(',');
