import { Type } from 'typebox';
import { choice, number } from '../stage/params.ts';
import { REASON } from '../stage/contract.ts';
import { streamStage } from '../stage/streamStage.ts';

/**
 * Signed steps of an image-shift sensor to length, mm, since the start: along x, along y, along the path whatever its
 * direction, or straight from start to end (net). Steps are those since the last reading. A bad reading loses its steps, so
 * the length is bad from there on: it would be too short.
 */
export const countsToLength = streamStage<{ perMmX: number; perMmY: number; mode: string }>({
  kind: 'counts-to-length',
  title: 'Counts to length',
  summary:
    'Converts signed x and y counts to length: along one axis, along the path, or straight from start to end',
  role: 'conversion',
  addsUp: true,
  params: Type.Object({
    perMmX: number('Counts per millimetre, x', { above: 0, max: 1e6 }),
    perMmY: number('Counts per millimetre, y', { above: 0, max: 1e6 }),
    mode: choice('Length', ['along x', 'along y', 'path', 'net']),
  }),
  defaults: { perMmX: 40, perMmY: 40, mode: 'along x' },
  takes: 'two columns of counts (x and y)',
  gives: (_params, inputs) =>
    inputs.length === 2 && inputs.every((unit) => unit === 'count') ? ['mm'] : null,
  names: ({ mode }) => [mode],
  start({ perMmX, perMmY, mode }) {
    const m = { x: 0, y: 0, path: 0, lost: REASON.ok as number };
    return {
      memory: m,
      step(timeS, [dx, dy], reason, emit) {
        if (m.lost === REASON.ok) m.lost = reason;
        if (m.lost !== REASON.ok) return emit(timeS, null, m.lost);
        m.x += dx! / perMmX;
        m.y += dy! / perMmY;
        m.path += Math.hypot(dx! / perMmX, dy! / perMmY);
        emit(timeS, [
          mode === 'along x'
            ? m.x
            : mode === 'along y'
              ? m.y
              : mode === 'path'
                ? m.path
                : Math.hypot(m.x, m.y),
        ]);
      },
    };
  },
  emitC({ perMmX, perMmY, mode }, c) {
    const [sx, sy, sum] = [c.state('x', '0'), c.state('y', '0'), c.state('path', '0')];
    c.line(
      `LN_WIDE dx = x[0] / ${c.constant('PER_MM_X', perMmX, 'counts')}, dy = x[1] / ${c.constant('PER_MM_Y', perMmY, 'counts')};`,
    );
    // Steps lost in either column make the length too short from there on.
    c.line('if (isnan(dx) || isnan(dy)) dx = dy = (LN_WIDE)NAN;');
    c.line(`${sx} += dx; ${sy} += dy; ${sum} += sqrt(dx * dx + dy * dy);`);
    const result: Record<string, string> = {
      'along x': sx,
      'along y': sy,
      path: sum,
      net: `sqrt(${sx} * ${sx} + ${sy} * ${sy})`,
    };
    c.line(`x[0] = (LN_REAL)(${result[mode]});`);
  },
});
