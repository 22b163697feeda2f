type Triple = readonly [number, number, number];

export interface SphereCoverage {
  /** Share of the sphere's 42 directions with a sample nearby, 0 to 1. */
  readonly share: number;
  /** Directions without one, in the gadget's axes. */
  readonly missing: readonly { readonly direction: Triple; readonly name: string }[];
  /** Every direction with whether it is covered: for drawing the sphere as it fills. */
  readonly directions: readonly { readonly direction: Triple; readonly covered: boolean }[];
}

/** Corners of an icosahedron and the middles of its edges, on the unit sphere: 42 directions, about 32 degrees apart. */
const DIRECTIONS: readonly Triple[] = makeDirections();
/** A direction counts as covered by a sample within this angle. */
const NEAR = Math.cos((26 * Math.PI) / 180);

/**
 * How much of the sphere a cloud of vectors covers, seen from a centre.
 * @param points vectors in any unit @param centre the present guess of the offset
 * @param shape optional correction matrix, row by row, so that a flattened cloud is judged as a sphere
 */
export function sphereCoverage(
  points: readonly Triple[],
  centre: readonly number[],
  shape: readonly number[] = [1, 0, 0, 0, 1, 0, 0, 0, 1],
): SphereCoverage {
  const covered = DIRECTIONS.map(() => false);
  for (const p of points) {
    const d = p.map((v, k) => v - centre[k]!);
    const v = [0, 1, 2].map(
      (r) => shape[3 * r]! * d[0]! + shape[3 * r + 1]! * d[1]! + shape[3 * r + 2]! * d[2]!,
    );
    const size = Math.hypot(...v);
    if (!(size > 0)) continue;
    DIRECTIONS.forEach((direction, i) => {
      if (!covered[i] && (direction[0] * v[0]! + direction[1] * v[1]! + direction[2] * v[2]!) / size >= NEAR)
        covered[i] = true;
    });
  }
  const directions = DIRECTIONS.map((direction, i) => ({ direction, covered: covered[i]! }));
  const missing = directions
    .filter((d) => !d.covered)
    .map(({ direction }) => ({ direction, name: nameOf(direction) }));
  return { share: 1 - missing.length / DIRECTIONS.length, missing, directions };
}

/** "+x +z": the axes that a direction leans towards. */
function nameOf(direction: Triple): string {
  const parts = direction.map((v, k) => (Math.abs(v) > 0.4 ? `${v > 0 ? '+' : '−'}${'xyz'[k]}` : ''));
  return parts.filter(Boolean).join(' ');
}

function makeDirections(): Triple[] {
  const golden = (1 + Math.sqrt(5)) / 2;
  const corners: Triple[] = [];
  for (const a of [1, -1]) for (const b of [golden, -golden]) corners.push([0, a, b], [a, b, 0], [b, 0, a]);
  const unit = (v: readonly number[]): Triple => {
    const size = Math.hypot(...v);
    return [v[0]! / size, v[1]! / size, v[2]! / size];
  };
  const middles: Triple[] = [];
  corners.forEach((a, i) => {
    for (const b of corners.slice(i + 1)) {
      // Edges of this icosahedron have length 2.
      if (Math.abs(Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]) - 2) < 1e-9)
        middles.push(unit([a[0] + b[0], a[1] + b[1], a[2] + b[2]]));
    }
  });
  return [...corners.map(unit), ...middles];
}
