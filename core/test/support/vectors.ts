import { readFileSync } from 'node:fs';

/** Cases of an independent reference file; each file tells its own convention in "about". */
// eslint-disable-next-line @typescript-eslint/no-explicit-any
export function cases(name: string): any[] {
  return JSON.parse(readFileSync(new URL(`../vectors/${name}.json`, import.meta.url), 'utf8')).cases;
}

export const relative = (a: number, b: number) => Math.abs(a - b) / Math.max(1e-300, Math.abs(b));
