/** Where long recordings are read and worked out: threads beside the program. */
export interface Aside {
  /** Reads samples. */
  readonly reader: URL;
  /** Runs lines over them. */
  readonly grower: URL;
  /** A recording with fewer is done with before a thread has started. */
  readonly longSamples: number;
}

export const ASIDE: Aside = {
  reader: new URL('./readWorker.mjs', import.meta.url),
  grower: new URL('./growWorker.mjs', import.meta.url),
  longSamples: 500_000,
};
