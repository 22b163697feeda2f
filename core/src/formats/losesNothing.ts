/** What is told of a file without a row being lost by it. */
const NOTES: ReadonlySet<string> = new Set(['clock-set', 'wrapped', 'other-bytes', 'remark', 'gap']);

/** Whether an issue of this code only tells something, and no row is missing for it. */
export const losesNothing = (code: string): boolean => NOTES.has(code);
