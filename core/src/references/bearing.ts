interface Position {
  readonly latitudeDeg: number;
  readonly longitudeDeg: number;
}

const EARTH_M = 6371008.8;
const RAD = Math.PI / 180;

/** Distance along the great circle, m, by the haversine formula on a sphere of the mean radius; within 0.6 %. */
export function greatCircleM(a: Position, b: Position): number {
  const h =
    Math.sin(((b.latitudeDeg - a.latitudeDeg) * RAD) / 2) ** 2 +
    Math.cos(a.latitudeDeg * RAD) *
      Math.cos(b.latitudeDeg * RAD) *
      Math.sin(((b.longitudeDeg - a.longitudeDeg) * RAD) / 2) ** 2;
  return 2 * EARTH_M * Math.asin(Math.min(1, Math.sqrt(h)));
}

/** True bearing at `a` towards `b`, degrees from north through east, 0 to 360. */
export function bearingDeg(a: Position, b: Position): number {
  const d = (b.longitudeDeg - a.longitudeDeg) * RAD;
  const y = Math.sin(d) * Math.cos(b.latitudeDeg * RAD);
  const x =
    Math.cos(a.latitudeDeg * RAD) * Math.sin(b.latitudeDeg * RAD) -
    Math.sin(a.latitudeDeg * RAD) * Math.cos(b.latitudeDeg * RAD) * Math.cos(d);
  return (Math.atan2(y, x) / RAD + 360) % 360;
}
