/** Kept of fast links: more a second say nothing new of a direction. */
const A_SECOND = 50;
/** The most that is kept of a turn; a minute or two are enough, and the newest count. */
const MOST = 4000;

/** What came together while something was done to a gadget. */
export interface Gathered {
  readonly rows: number;
  /** From the first row to the newest, s of the gadget's clock. */
  readonly seconds: number;
  /** Values of all columns together, thinned, the newest of many. */
  readonly cloud: readonly (readonly number[])[];
  /** Sums of each column: what was counted. */
  readonly sums: readonly number[];
}

/** Gathers rows of some columns as they come, in pieces of any length. */
export interface Gathering {
  take(times: ArrayLike<number>, columns: readonly ArrayLike<number>[]): void;
  /** It goes on after a pause: what came meanwhile does not count. */
  goOn(timeS: number): void;
  readonly newestS: number;
  readonly gathered: Gathered;
}

/** @param columns how many there are @param fromS rows up to then do not count */
export function createGathering(columns: number, fromS: number): Gathering {
  const sums = Array<number>(columns).fill(0);
  let cloud: number[][] = [];
  let [rows, seconds, newestS, keptS] = [0, 0, fromS, -Infinity];
  return {
    take(times, values) {
      for (let i = 0; i < times.length; i++) {
        const t = times[i]!;
        if (t <= newestS) continue;
        if (rows > 0) seconds += t - newestS;
        newestS = t;
        const row = values.map((column) => column[i]!);
        // A row that lacks one of them says nothing of how they lie together.
        if (!row.every(Number.isFinite)) continue;
        rows++;
        row.forEach((v, k) => (sums[k]! += v));
        if (t - keptS < 0.999 / A_SECOND) continue;
        keptS = t;
        cloud.push(row);
      }
      if (cloud.length > MOST) cloud = cloud.slice(-MOST);
    },
    goOn(timeS) {
      newestS = Math.max(newestS, timeS);
    },
    get newestS() {
      return newestS;
    },
    get gathered() {
      return { rows, seconds, cloud, sums };
    },
  };
}
