/** Note of a recording while its file comes in: one that still has it at a start was cut off. */
export const BEING_IMPORTED = 'Importing…';
