import type { BenchContext } from './useBench.ts';
import { assignPins, briefFaults, briefOfAsk, trueUpChannel, type GadgetPlan } from '@lucky-needle/core/plan';
import { compileLine, filterTotals, LineError } from '@lucky-needle/core/line';
import { UNITS } from '@lucky-needle/core/units';
import type { Gadget, Brief, Channel } from '@lucky-needle/core/model';
import type { GlyphState } from '../parts/Glyph.tsx';

export interface Step {
  readonly path: string;
  readonly title: string;
  readonly state: GlyphState;
  /** The one figure that matters, or what it waits for. */
  readonly figure: string;
}

/** The job in its order, each step with its state. No step locks another. */
export function stepsOf(bench: BenchContext, plan: GadgetPlan | null): Step[] {
  const { gadget, points, calibrations, recordings } = bench;
  const { brief } = gadget;
  return [
    { path: 'brief', title: 'Brief', ...briefState(brief) },
    { path: 'pick', title: 'Pick', ...picked(plan) },
    { path: 'hook-up', title: 'Hook-up', ...hookup(plan) },
    { path: 'line', title: 'Line', ...line(bench) },
    { path: 'true-up', title: 'True-up', ...trueUp(bench) },
    { path: 'prove', title: 'Prove', ...proved(bench) },
    {
      path: 'runs',
      title: 'Runs',
      ...(recordings.length === 0
        ? { state: 'open' as const, figure: 'none yet' }
        : recordings.some((r) => r.state === 'recording')
          ? { state: 'part' as const, figure: 'recording' }
          : { state: 'done' as const, figure: countRuns(recordings) }),
    },
    {
      path: 'face',
      title: 'Face',
      ...faceInWords(gadget, plan),
    },
    {
      path: 'logbook',
      title: 'Logbook',
      state: points.length + calibrations.length > 0 ? 'done' : 'open',
      figure: `since ${gadget.createdAt.slice(0, 10)}`,
    },
  ];
}

type Told = Pick<Step, 'state' | 'figure'>;

function countRuns(recordings: BenchContext['recordings']): string {
  const out = recordings.filter((r) => r.excluded !== null).length;
  return `${recordings.length - out} ${recordings.length - out === 1 ? 'run' : 'runs'}${out > 0 ? `, ${out} excluded` : ''}`;
}

function briefState(brief: Brief | null): Told {
  if (!brief) return { state: 'open', figure: 'start here' };
  if (brief.asks.some((ask) => briefFaults(briefOfAsk(brief, ask)).length > 0))
    return { state: 'trouble', figure: 'has a contradiction' };
  const { low, high, unit, tolerance } = brief.asks[0]!;
  const more = brief.asks.length - 1;
  const first = `${low}…${high} ${UNITS[unit].symbol}`;
  return { state: 'done', figure: more > 0 ? `${first} and ${more} more` : `${first}, ±${tolerance}` };
}

function picked(plan: GadgetPlan | null): Told {
  if (!plan) return { state: 'open', figure: 'needs the brief' };
  const asks = plan.sensing.filter((s) => s.ask.measurand !== 'worked out');
  const missing = asks.filter((s) => !s.part).length;
  if (plan.lost.length > 0) return { state: 'trouble', figure: 'a part is no longer on the shelf' };
  if (missing === asks.length && asks.length > 0) return { state: 'open', figure: 'no sensor picked' };
  if (missing > 0) return { state: 'part', figure: `${missing} of ${asks.length} to pick` };
  const first = asks[0]?.part;
  return {
    state: plan.board ? 'done' : 'part',
    figure: first ? `${first.title.split(',')[0]}${asks.length > 1 ? `, +${asks.length - 1}` : ''}` : '',
  };
}

function hookup(plan: GadgetPlan | null): Told {
  if (!plan?.board) return { state: 'open', figure: 'no board picked' };
  const { conflicts, unmet, needs } = assignPins(plan, plan.board);
  const wrong = conflicts.length + unmet.length;
  if (wrong > 0) return { state: 'trouble', figure: `${wrong} pin conflict${wrong > 1 ? 's' : ''}` };
  return { state: 'done', figure: `${needs.length} of ${plan.board.pins.length} pins` };
}

/** The display that it is shown on, and how many alarms watch it. */
function faceInWords(gadget: Gadget, plan: GadgetPlan | null): Told {
  const id = gadget.face?.displayId ?? plan?.display?.id;
  const display = plan?.parts.find((q) => q.id === id);
  const n = gadget.alarms?.length ?? 0;
  const alarms = n === 0 ? 'no alarms' : n === 1 ? '1 alarm' : `${n} alarms`;
  if (display?.kind !== 'display')
    return { state: n > 0 ? 'part' : 'open', figure: n > 0 ? alarms : 'no display picked' };
  const size =
    display.widthPx > 0 ? `${display.widthPx} × ${display.heightPx}` : `${display.columns} × ${display.rows}`;
  return { state: n > 0 ? 'done' : 'part', figure: `${size}, ${alarms}` };
}

function line({ gadget }: BenchContext): Told {
  const first = gadget.channels[0]!;
  if (first.line.stages.length === 0) return { state: 'open', figure: 'raw counts only' };
  try {
    const compiled = compileLine(first.line, { sampleRateHz: gadget.sampleRateHz });
    const { delayS } = filterTotals(compiled);
    return {
      state: 'done',
      figure: `${compiled.stages.length} ${compiled.stages.length === 1 ? 'stage' : 'stages'}, ${countedText(first) ?? lagText(delayS)}`,
    };
  } catch (error) {
    if (error instanceof LineError) return { state: 'trouble', figure: 'has an error' };
    throw error;
  }
}

/** What is counted behind the stages. */
function countedText({ watches = [], figures = [], shows }: Channel): string | null {
  const shown = figures.find((f) => f.id === shows);
  if (shown) return `then ${shown.name}`;
  return watches.length > 0 ? `then ${watches.at(-1)!.name}` : null;
}

const lagText = (s: number) => (s < 0.1 ? `${(1000 * s).toFixed(0)} ms lag` : `${s.toFixed(1)} s lag`);

function proved({ gadget: { brief }, proof: { proof } }: BenchContext): Told {
  if (!brief) return { state: 'open', figure: 'needs the brief' };
  if (!proof) return { state: 'open', figure: 'not evaluated yet' };
  if (proof.of === 0) return { state: 'open', figure: 'needs the line' };
  const { failed, shown, of } = proof;
  return { state: failed ? 'trouble' : shown === of ? 'done' : 'part', figure: `${shown} of ${of} passed` };
}

function trueUp({ gadget, points, calibrations }: BenchContext): Told {
  // One that goes on from another is trued up with it.
  const own = gadget.channels.filter((c) => trueUpChannel(gadget, c).id === c.id);
  const inUse = own.filter((o) =>
    calibrations.some((c) => c.state === 'in use' && c.channelId === o.id),
  ).length;
  const of = own.length;
  if (inUse === of) return { state: 'done', figure: `${inUse} of ${of} calibrated` };
  if (inUse > 0) return { state: 'part', figure: `${inUse} of ${of} calibrated` };
  if (points.length > 0)
    return { state: 'part', figure: `${points.length} point${points.length > 1 ? 's' : ''}` };
  return { state: 'open', figure: 'uncalibrated' };
}
