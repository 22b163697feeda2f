import { crossingFit } from './crossingFit.ts';
import { checkConfirmation, type NOfM } from './gates.ts';
import { crossingTime, type Detector, type Emit } from './detector.ts';

export interface RunEvent {
  readonly kind: 'start' | 'stop';
  readonly timeS: number;
  /** Standard uncertainty of the time; NaN where the crossing lies between two samples alone. */
  readonly uTimeS: number;
}

export interface RunOptions extends Partial<NOfM> {
  readonly startLevel: number;
  readonly stopLevel: number;
  readonly holdS: number;
  /** Whether a start is drawn back along the rise to the reading at rest, instead of being the moment of the level. */
  readonly drawnBack?: boolean;
  /** Standard deviation of readings near one; NaN while it is not known. */
  readonly noise?: (near: number) => number;
}

export interface RunMemory {
  running: boolean;
  candidate: number | null;
  /** Of the newest m readings since the candidate, which lay on the other side: 1 each. */
  strays: number[];
  t0: number;
  x0: number;
  /** Readings since the candidate, to draw the rise back by. */
  riseT: number[];
  riseX: number[];
  /** Mean at rest, slowly forgotten. */
  rest: number;
}

export const notRunning = (): RunMemory => ({
  running: false,
  candidate: null,
  strays: [],
  t0: Number.NaN,
  x0: Number.NaN,
  riseT: [],
  riseX: [],
  rest: Number.NaN,
});

const MOST_OF_RISE = 500;

/**
 * Start and stop of a run on motion: the start is the crossing of `startLevel` after which the signal stayed above it for
 * `holdS`, or where that rise, drawn back, meets rest; the stop is the crossing of `stopLevel` after which it stayed below.
 * "Stayed" means that at least n of any m readings in a row did. @throws {RangeError} for levels that are the wrong way round
 */
export function runStartStop(
  { startLevel, stopLevel, holdS, drawnBack = false, noise, n = 1, m: of = 1 }: RunOptions,
  emit: Emit<RunEvent>,
  m: RunMemory = notRunning(),
): Detector {
  if (!(startLevel >= stopLevel))
    throw new RangeError(
      `Enter a start level that is not below the stop level; received ${startLevel} and ${stopLevel}.`,
    );
  checkConfirmation({ n, m: of });
  return {
    push(t, x) {
      if (Number.isNaN(x)) return;
      const level = m.running ? stopLevel : startLevel;
      const beyond = m.running ? x < level : x >= level;
      const was = m.running ? m.x0 < level : m.x0 >= level;
      if (m.candidate !== null) m.strays = [...m.strays, Number(!beyond)].slice(-of);
      const left = m.strays.reduce((sum, s) => sum + s, 0) > of - n;
      if (!beyond) {
        if (left) m.candidate = null;
        if (!m.running && x < startLevel / 2 + stopLevel / 2)
          m.rest += Number.isNaN(m.rest) ? 0 : (x - m.rest) / 10;
        if (Number.isNaN(m.rest)) m.rest = x;
      } else if (m.candidate === null) {
        m.candidate = Number.isNaN(m.x0) || was ? t : crossingTime(m.t0, m.x0, t, x, level);
        m.riseT = [];
        m.riseX = [];
        m.strays = [0];
      }
      if (m.candidate !== null && !m.running && drawnBack && m.riseT.length < MOST_OF_RISE) {
        m.riseT.push(t);
        m.riseX.push(x);
      }
      if (m.candidate !== null && t - m.candidate >= holdS) {
        const fitted =
          !m.running && drawnBack
            ? crossingFit(m.riseT, m.riseX, m.rest, m.candidate, noise?.(startLevel))
            : null;
        // Drawn back further than the rise is long, it tells nothing.
        const good = fitted && m.candidate - fitted.timeS < 2 * holdS && fitted.timeS <= m.candidate + 1e-9;
        emit({
          kind: m.running ? 'stop' : 'start',
          timeS: good ? fitted.timeS : m.candidate,
          uTimeS: good ? fitted.uTimeS : Number.NaN,
        });
        m.running = !m.running;
        m.candidate = null;
        m.riseT = [];
        m.riseX = [];
      }
      m.t0 = t;
      m.x0 = x;
    },
    finish() {},
  };
}
