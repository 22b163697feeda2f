/** Least room that is made, so that buffers do not grow with every piece. */
const LEAST = 64;

/** Room for so many samples and as many again before it is too small: the next power of two. */
export const roomFor = (length: number): number => Math.max(LEAST, 2 ** Math.ceil(Math.log2(length)));
