import type { BenchContext } from './useBench.ts';
import { BOARDS, DISPLAYS, SENSORS, briefFaults, pinConflicts } from '@lucky-needle/core/plan';
import { compileLine, filterTotals } from '@lucky-needle/core/line';
import { UNITS } from '@lucky-needle/core/units';
import type { GlyphState } from '../parts/Glyph.tsx';

export interface Step {
  readonly path: string;
  readonly title: string;
  readonly state: GlyphState;
  /** The one figure that matters, or what it waits for. */
  readonly figure: string;
}

/** The job in its order, each step with its state. No step locks another. */
export function stepsOf(
  bench: BenchContext,
  proofShown: { shown: number; of: number; failed: boolean } | null,
): Step[] {
  const { gadget, points, calibrations, recordings } = bench;
  const { brief } = gadget;
  return [
    {
      path: 'brief',
      title: 'Brief',
      ...(brief
        ? briefFaults(brief).length > 0
          ? { state: 'trouble' as const, figure: 'contradicts itself' }
          : {
              state: 'done' as const,
              figure: `${brief.low}…${brief.high} ${UNITS[brief.unit].symbol}, ±${brief.tolerance}`,
            }
        : { state: 'open' as const, figure: 'start here' }),
    },
    {
      path: 'pick',
      title: 'Pick',
      ...(gadget.pick
        ? {
            state: 'done' as const,
            figure: `${SENSORS.find((s) => s.id === gadget.pick!.partId)?.title.split(',')[0] ?? gadget.pick.partId} ×${gadget.channels.length}`,
          }
        : { state: 'open' as const, figure: brief ? 'no sensor yet' : 'waits for the brief' }),
    },
    { path: 'hook-up', title: 'Hook-up', ...hookup(bench) },
    { path: 'line', title: 'Line', ...line(bench) },
    { path: 'true-up', title: 'True-up', ...trueUp(bench) },
    {
      path: 'prove',
      title: 'Prove',
      ...(proofShown
        ? {
            state: (proofShown.failed
              ? 'trouble'
              : proofShown.shown === proofShown.of
                ? 'done'
                : 'part') as GlyphState,
            figure: `${proofShown.shown} of ${proofShown.of} shown`,
          }
        : { state: 'open' as const, figure: brief ? 'waits for the line' : 'waits for the brief' }),
    },
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
      ...(gadget.face
        ? {
            state: 'done' as const,
            figure: `${DISPLAYS.find((d) => d.id === gadget.face!.displayId)?.title.match(/\d+ × \d+/)?.[0] ?? ''}, 2 alarms`,
          }
        : { state: 'open' as const, figure: 'no display yet' }),
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
  return `${recordings.length - out} kept${out > 0 ? `, ${out} out` : ''}`;
}

function hookup({ gadget }: BenchContext): Told {
  const board = BOARDS.find((b) => b.id === gadget.hookup?.boardId);
  if (!gadget.hookup || !board) return { state: 'open', figure: 'no board yet' };
  const display = DISPLAYS.find((d) => d.id === gadget.hookup!.displayId) ?? null;
  const conflicts = pinConflicts(gadget.hookup.pins, gadget.channels, board, display);
  if (conflicts.length > 0)
    return { state: 'trouble', figure: `${conflicts.length} pin clash${conflicts.length > 1 ? 'es' : ''}` };
  return { state: 'done', figure: `${gadget.hookup.pins.length} of ${board.analogPins.length} analog` };
}

function line({ gadget }: BenchContext): Told {
  const first = gadget.channels[0]!;
  if (first.line.stages.length === 0) return { state: 'open', figure: 'raw counts only' };
  const compiled = compileLine(first.line, { sampleRateHz: gadget.sampleRateHz });
  const { delayS } = filterTotals(compiled);
  return { state: 'done', figure: `${compiled.stages.length} stages, ${delayS.toFixed(1)} s lag` };
}

function trueUp({ gadget, points, calibrations }: BenchContext): Told {
  const inUse = calibrations.filter((c) => c.state === 'in use').length;
  const of = gadget.channels.length;
  if (inUse === of) return { state: 'done', figure: `${inUse} of ${of} in use` };
  if (inUse > 0) return { state: 'part', figure: `${inUse} of ${of} in use` };
  if (points.length > 0)
    return { state: 'part', figure: `${points.length} point${points.length > 1 ? 's' : ''}` };
  return { state: 'open', figure: 'as bought' };
}
