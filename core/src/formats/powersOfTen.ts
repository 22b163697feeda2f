/** Powers of ten that a double holds exactly: 1 to 1e22. */
export const POWERS_OF_TEN: readonly number[] = Array.from({ length: 23 }, (_, k) => 10 ** k);
