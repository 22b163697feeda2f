import type { WatchedEvent } from '../detect/index.ts';
import type { FigureSpec } from '../model/watch.ts';
import { checkParams } from '../stage/checkParams.ts';
import { restoreMemory, saveMemory } from '../stage/memory.ts';
import type { UnitId } from '../units/index.ts';
import type { Budget } from './budget.ts';
import { figureKind } from './figureKinds.ts';
import { none, type FigureContext, type FigureNow, type FigureRole, type FigureRun } from './kind.ts';

/** A figure as it stands now. */
export interface FigureReading extends FigureNow {
  readonly id: string;
  readonly name: string;
  readonly unit: UnitId;
  /** Begin of what it is made of: the first reading, or the last reset; NaN before. */
  readonly sinceS: number;
}

export interface FiguresContext extends Omit<FigureContext, 'otherUnits' | 'otherBudgets' | 'edges'> {
  /** Unit that another channel ends in; null when there is no such channel, or it cannot run. */
  unitOf(channelId: string): UnitId | null;
  /** What readings of another channel are worth. */
  budgetOf(channelId: string): Budget;
  /** Readings at which what a watch looks for begins and ends. */
  edgesOf(watchId: string): readonly number[];
}

export interface FiguresMemory {
  readonly runs: readonly object[];
  readonly sinceS: number;
}

/** The figures of one channel at work. */
export interface Figures {
  readonly specs: readonly FigureSpec[];
  /** Units, in the order of the specs. */
  readonly units: readonly UnitId[];
  /** Why a figure cannot be made, in the order of the specs; null where it can. The others are made all the same. */
  readonly problems: readonly (FigureError | null)[];
  /** Whether each reading has a say in one of them, or the first is still to come. */
  readonly looksAtReadings: boolean;
  /** The next reading. @param of newest reading of another channel, NaN where there is none */
  reading(timeS: number, x: number, of: (channelId: string) => number): void;
  event(event: WatchedEvent): void;
  /** Begins all of them anew. */
  reset(timeS: number): void;
  /** The same for the next trial of a run: what is measured from where the last one ended keeps that. */
  next(timeS: number): void;
  now(): FigureReading[];
  save(): FiguresMemory;
  restore(saved: FiguresMemory): void;
}

/** Why a figure cannot be made; names the figure. */
export class FigureError extends RangeError {
  override readonly name = 'FigureError';
  readonly id: string;
  constructor(id: string, message: string) {
    super(message);
    this.id = id;
  }
}

/** Made once: readings come by the million. */
const NO_OTHERS: readonly number[] = [];

interface Made {
  readonly spec: FigureSpec;
  readonly unit: UnitId;
  readonly roles: readonly (readonly [name: string, role: FigureRole, watchId: string])[];
  run: FigureRun;
  start(): FigureRun;
}

/** A figure of a kind, watch, channel or parameter that there is not, or of units that do not fit, says so instead of a value. */
export function createFigures(
  specs: readonly FigureSpec[],
  watchIds: readonly string[],
  context: FiguresContext,
): Figures {
  const problems: (FigureError | null)[] = specs.map(() => null);
  const made = specs.map((spec, k) => {
    try {
      return make(spec, watchIds, context);
    } catch (error) {
      if (!(error instanceof FigureError)) throw error;
      problems[k] = error;
      return notMade(spec, error.message);
    }
  });
  let sinceS = Number.NaN;
  // Those that look at readings, so that the others cost nothing.
  const onReading = () => made.filter(({ run }) => run.reading);
  let reading = onReading();
  const begin = (timeS: number, anew: (figure: Made) => void) => {
    made.forEach(anew);
    reading = onReading();
    sinceS = timeS;
  };
  return {
    specs,
    units: made.map(({ unit }) => unit),
    problems,
    get looksAtReadings() {
      return reading.length > 0 || sinceS !== sinceS;
    },
    reading(timeS, x, of) {
      if (x !== x) return;
      if (sinceS !== sinceS) sinceS = timeS;
      for (const { run, spec } of reading)
        run.reading!(timeS, x, spec.others.length === 0 ? NO_OTHERS : spec.others.map(of));
    },
    event(event) {
      if (!event.counted) return;
      for (const { run, roles } of made)
        for (const [name, role, watchId] of roles)
          if (watchId === event.watchId && isWanted(role, event)) run.event?.(name, event);
    },
    reset(timeS) {
      begin(timeS, (figure) => (figure.run = figure.start()));
    },
    next(timeS) {
      begin(timeS, (figure) => {
        if (figure.run.next) figure.run.next();
        else figure.run = figure.start();
      });
    },
    now: () =>
      made.map(({ spec, unit, run }) => ({ ...run.now(), id: spec.id, name: spec.name, unit, sinceS })),
    save: () => ({ runs: made.map(({ run }) => saveMemory(run.memory)), sinceS }),
    restore(saved) {
      made.forEach(({ run }, k) => restoreMemory(run.memory, saved.runs[k]!));
      sinceS = saved.sinceS;
    },
  };
}

function notMade(spec: FigureSpec, why: string): Made {
  const start = (): FigureRun => ({ memory: {}, now: () => none(why) });
  return { spec, unit: '1', roles: [], run: start(), start };
}

function make(spec: FigureSpec, watchIds: readonly string[], context: FiguresContext): Made {
  const kind = figureKind(spec.kind);
  const fail = (message: string): never => {
    throw new FigureError(spec.id, message);
  };
  if (!kind) return fail(`Unknown result type “${spec.kind}”. Choose another.`);
  const roles = Object.entries(kind.roles).map(([name, role]) => {
    const watchId = spec.watches[name];
    if (watchId === undefined || !watchIds.includes(watchId))
      fail(`Choose an event for “${role.title}” in “${spec.name}”.`);
    return [name, role, watchId!] as const;
  });
  const wanted = kind.others;
  if (wanted !== 'several' && spec.others.length !== wanted.length)
    fail(
      `“${spec.name}” needs ${wanted.length === 0 ? 'no other channel' : wanted.join(' and ')}; received ${spec.others.length}.`,
    );
  const otherUnits = spec.others.map((id) => context.unitOf(id));
  if (otherUnits.includes(null))
    fail(`“${spec.name}” uses a channel that was deleted or has no readings. Choose another.`);
  try {
    // A parameter that came into being after the figure was stored stands at its default.
    const params = { ...kind.defaults, ...spec.params };
    checkParams(kind, params);
    const units = otherUnits as UnitId[];
    const unit = kind.unit(params, context.unit, units);
    if (unit === null)
      return fail(
        `“${spec.name}” cannot be calculated from this channel’s unit. Choose another result or unit.`,
      );
    const otherBudgets = spec.others.map((id) => context.budgetOf(id));
    const edges = (role: string) => context.edgesOf(spec.watches[role]!);
    const start = () => kind.start(params, { ...context, otherUnits: units, otherBudgets, edges });
    return { spec, unit, roles, run: start(), start };
  } catch (error) {
    if (error instanceof FigureError) throw error;
    if (error instanceof RangeError || error instanceof TypeError) return fail(error.message);
    throw error;
  }
}

function isWanted({ wants }: FigureRole, { what, timeS, endS }: WatchedEvent): boolean {
  switch (wants) {
    case 'begin':
      return what === 'start' || timeS === endS;
    case 'stretch':
      return true;
    case 'moment':
    case 'end':
      return what === 'event';
  }
}
