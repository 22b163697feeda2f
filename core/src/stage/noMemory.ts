import type { Runner } from './contract.ts';

/** Saving and restoring of a stage that remembers nothing. */
export const NO_MEMORY: Pick<Runner, 'save' | 'restore'> = {
  save: () => null,
  restore: () => undefined,
};
