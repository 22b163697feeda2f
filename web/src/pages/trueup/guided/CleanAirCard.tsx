import { useState } from 'react';
import { cleanAirLevel, steadyLimits, steadyWindow } from '@lucky-needle/core/calibrate';
import { compileLine, LineError } from '@lucky-needle/core/line';
import type { Channel } from '@lucky-needle/core/model';
import { briefFor, toleranceIn } from '@lucky-needle/core/plan';
import { printNominal } from '@lucky-needle/core/units';
import { useCalibratePointsMutation } from '../../../api/trueUpApi.ts';
import { problemOf } from '../../../api/problemOf.ts';
import { useAppDispatch } from '../../../app/store.ts';
import { toastShown } from '../../../app/toasts.ts';
import { useBench } from '../../../app/useBench.ts';
import { useLive } from '../../../live/useLive.ts';
import { NumberField } from '../../../parts/NumberField.tsx';
import { ProblemNote } from '../../../parts/ProblemNote.tsx';
import { clock, useWarmUp } from '../useWarmUp.ts';

/** Channels of heated elements: each needs its own resistance in clean air, and one airing serves them all. */
export const elementsOf = (channels: readonly Channel[]): Channel[] =>
  channels.filter(
    (c) => c.line.sources.length === 1 && c.line.stages.some((s) => s.kind === 'ratio-to-baseline' && !s.off),
  );

/** Clean air after warm-up, for all elements at once: counts down, waits for rest, keeps a point each and puts the baseline in use. */
export function CleanAirCard() {
  const { gadget, calibrations } = useBench();
  const live = useLive();
  const dispatch = useAppDispatch();
  const [percent, setPercent] = useState(20);
  const [keep, keeping] = useCalibratePointsMutation();
  const elements = elementsOf(gadget.channels);
  const warm = useWarmUp(
    gadget,
    elements.map((c) => c.askId),
  );
  const context = { sampleRateHz: gadget.sampleRateHz };
  const states = elements.map((c) => {
    const raw = live.columns.get(c.line.sources[0]!.column);
    const level = cleanAirLevel(c.line, context);
    if (!raw || raw.length === 0 || level === null) return null;
    try {
      const line = compileLine(c.line, context);
      const tolerance = toleranceIn(briefFor(gadget, c), line.outputs[0]!.unit) ?? level;
      const state = steadyWindow(
        live.times,
        raw,
        (i) => Number.isFinite(raw[i]),
        steadyLimits(line, raw.at(-1)!, tolerance),
      );
      return { level, ...state };
    } catch (error) {
      if (error instanceof LineError) return null;
      throw error;
    }
  });
  const linkUp = live.status?.state === 'up' && live.connected;
  const ready = linkUp && warm.coldS <= 0 && states.length > 0 && states.every((s) => s?.steady && s.capture);
  const keepAll = async () => {
    const points = elements.map((c, i) => {
      const { level, capture } = states[i]!;
      const reference = { kind: 'clean-air' as const, ppm: level, within: (level * percent) / 100 };
      return { channelId: c.id, role: 'fit' as const, reference, capture: capture! };
    });
    const kept = await keep({
      gadgetId: gadget.id,
      body: { points, fit: 'clean-air-baseline', note: 'clean air' },
    });
    if (!kept.data) return;
    dispatch(toastShown({ text: `Clean air kept for ${elements.length} elements.`, tone: 'done' }));
  };
  return (
    <section className="panel grid gap-3" aria-label="Clean air">
      <header className="flex flex-wrap items-center gap-3">
        <h2 className="section-title grow">Clean air, for all elements at once</h2>
        <span role="status" className={`text-sm ${ready ? 'text-success' : 'muted'}`} data-testid="air-state">
          {!linkUp
            ? 'no readings'
            : warm.coldS > 0
              ? `warming up, ${clock(warm.coldS)} to go`
              : `${ready ? '✓ ' : ''}${warm.isKnown ? 'warm' : 'warm-up not known'}${ready ? ' and steady' : ', not steady yet'}`}
        </span>
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={!ready || keeping.isLoading}
          onClick={() => void keepAll()}
        >
          Keep as clean air
        </button>
      </header>
      {!warm.isKnown && (
        <p role="note" className="text-sm text-warning">
          No sensor is picked, so how long it must warm up is not known. Pick it, or wait as long as its maker
          says.
        </p>
      )}
      <p className="muted text-sm">
        Out of doors or by an open window, away from breath and kitchens. An element’s resistance there is its
        own; every level is read as a ratio to it.
      </p>
      <NumberField
        className="max-w-40"
        label="Air is that clean to ±"
        unit="%"
        value={percent}
        onChange={setPercent}
        check={(v) => (v > 0 && v <= 100 ? null : 'From 0 to 100.')}
      />
      <ProblemNote problem={problemOf(keeping.error)} />
      <div className="overflow-x-auto">
        <table className="table-sm table" aria-label="Elements">
          <thead>
            <tr>
              <th className="pl-0">Element</th>
              <th className="text-right">Counts now</th>
              <th className="text-right">Clean air is, ppm</th>
              <th className="text-right">Baseline in use, Ω</th>
            </tr>
          </thead>
          <tbody className="num">
            {elements.map((c, i) => {
              const used = calibrations.find((k) => k.channelId === c.id && k.state === 'in use');
              const baseline = used?.result.parameters.find((p) => p.param === 'baseline');
              return (
                <tr key={c.id}>
                  <th scope="row" className="pl-0 font-sans text-base-content">
                    {c.name}
                  </th>
                  <td className="text-right">
                    {states[i]?.capture ? printNominal(states[i].capture.mean, 5) : '–'}
                  </td>
                  <td className="text-right">{states[i] ? printNominal(states[i].level, 3) : '–'}</td>
                  <td className="text-right">
                    {baseline ? (
                      <>
                        {printNominal(baseline.value, 4)}{' '}
                        <span className="muted">±{printNominal(2 * baseline.u, 2)}</span>
                      </>
                    ) : (
                      'as bought'
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </section>
  );
}
