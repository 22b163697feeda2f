export interface Sample {
  readonly t: number;
  readonly x: number;
}

/** Vertex of the parabola through three samples; the middle one itself when they do not bend down. */
export function vertex(a: Sample | null, b: Sample, c: Sample | null): { timeS: number; value: number } {
  if (!a || !c) return { timeS: b.t, value: b.x };
  const d1 = (b.x - a.x) / (b.t - a.t);
  const d2 = (c.x - b.x) / (c.t - b.t);
  const bend = (d2 - d1) / (c.t - a.t);
  if (!(bend < 0)) return { timeS: b.t, value: b.x };
  const slope = d1 + bend * (b.t - a.t);
  const shift = -slope / (2 * bend);
  return { timeS: b.t + shift, value: b.x + slope * shift + bend * shift * shift };
}
