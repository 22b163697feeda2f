/** Told while something long is worked out: the share that is done. Throws to stop it. */
export type Told = (share: number) => void;
