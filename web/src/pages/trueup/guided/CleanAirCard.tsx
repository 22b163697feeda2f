import { useState } from 'react';
import { heatedElements } from '@lucky-needle/core/calibrate';
import { printNominal, printNumber, printWithin } from '@lucky-needle/core/units';
import { useAiringQuery, useKeepAiringMutation } from '../../../api/trueUpApi.ts';
import { problemOf } from '../../../api/problemOf.ts';
import { useAppDispatch } from '../../../app/store.ts';
import { toastShown } from '../../../app/toasts.ts';
import { useBench } from '../../../app/useBench.ts';
import { NumberField } from '../../../parts/NumberField.tsx';
import { ProblemNote } from '../../../parts/ProblemNote.tsx';
import { clock } from '../useWarmUp.ts';
import { counted } from '@lucky-needle/core/words';

/** How often the page asks how the elements stand, ms. */
const ASK_MS = 1000;

/** Clean air after warm-up, for all elements at once: the server counts down, waits for rest, keeps a point each and puts the baselines in use. */
export function CleanAirCard() {
  const { gadget, calibrations } = useBench();
  const dispatch = useAppDispatch();
  const [percent, setPercent] = useState(20);
  const [keep, keeping] = useKeepAiringMutation();
  const { data: air, error } = useAiringQuery(gadget.id, { pollingInterval: ASK_MS });
  const elements = heatedElements(gadget.channels);
  const ready = air?.waitingFor === null;
  const seen = (channelId: string) => air?.elements.find((e) => e.channelId === channelId);
  const keepAll = async () => {
    const kept = await keep({ gadgetId: gadget.id, body: { within: percent / 100 } });
    if (!kept.data) return;
    dispatch(
      toastShown({ text: `Clean-air level saved for ${counted(elements.length, 'sensor')}.`, tone: 'done' }),
    );
  };
  return (
    <section className="panel grid gap-3" aria-label="Clean air">
      <header className="flex flex-wrap items-center gap-3">
        <h2 className="section-title grow">Clean air, all sensor elements at once</h2>
        <span role="status" className={`text-sm ${ready ? 'text-success' : 'muted'}`} data-testid="air-state">
          {!air
            ? 'checking…'
            : air.coldS
              ? `warming up, ${clock(air.coldS)} left`
              : `${ready ? '✓ ' : ''}${air.coldS === null ? 'warm-up time unknown' : 'warm'}${ready ? ', steady' : ', not steady yet'}`}
        </span>
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={!ready || keeping.isLoading}
          onClick={() => void keepAll()}
        >
          Capture clean air
        </button>
      </header>
      {air?.coldS === null && (
        <p role="note" className="text-sm text-warning">
          No sensor picked yet, so its warm-up time is unknown. Choose one on the Pick page, or wait as long
          as its datasheet says.
        </p>
      )}
      <p className="muted text-sm">
        Do this outdoors or by an open window, away from breath and kitchens. Each element has its own
        resistance in clean air; all levels are calculated relative to it.
      </p>
      <NumberField
        className="max-w-40"
        label="Clean-air uncertainty ±"
        unit="%"
        value={percent}
        onChange={setPercent}
        check={(v) => (v > 0 && v <= 100 ? null : 'Enter a value above 0 and up to 100.')}
      />
      {air && !ready && !air.coldS && (
        <p role="note" className="muted text-sm">
          {air.waitingFor}
        </p>
      )}
      <ProblemNote problem={problemOf(keeping.error ?? error)} />
      <div className="overflow-x-auto">
        <table
          className="table-sm table max-sm:[&_td]:px-1 max-sm:[&_td]:whitespace-normal max-sm:[&_th]:px-1 max-sm:[&_th]:whitespace-normal"
          aria-label="Sensor elements"
        >
          <thead>
            <tr>
              <th className="pl-0">Sensor element</th>
              <th className="text-right">Current counts</th>
              <th className="text-right">Level in clean air, ppm</th>
              <th className="text-right">Active baseline, Ω</th>
            </tr>
          </thead>
          <tbody className="num">
            {elements.map((c) => {
              const used = calibrations.find((k) => k.channelId === c.id && k.state === 'in use');
              const baseline = used?.result.parameters.find((p) => p.param === 'baseline');
              return (
                <tr key={c.id}>
                  <th scope="row" className="pl-0 font-sans text-base-content">
                    {c.name}
                  </th>
                  <td className="text-right">{told(seen(c.id)?.counts, (v) => printNumber(v, 1))}</td>
                  <td className="text-right">{told(seen(c.id)?.level, (v) => printNominal(v, 3))}</td>
                  <td className="text-right">
                    {baseline ? printWithin(baseline.value, 2 * baseline.u) : 'uncalibrated'}
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

const told = (value: number | null | undefined, print: (value: number) => string): string =>
  value === null || value === undefined ? '–' : print(value);
