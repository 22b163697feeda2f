/** Note of a recording while its file comes in: one that still has it at a start was cut off. */
export const BEING_IMPORTED = 'Importing…';

const OLDER_NOTE = 'Being imported.';

/** Whether a recording has the note of an import that has not ended; workspaces of older versions have another one. */
export const isBeingImported = (note: string): boolean => note === BEING_IMPORTED || note === OLDER_NOTE;
