import { isInLight, lampsOf } from '@lucky-needle/core/calibrate';
import type { Channel, LampLight } from '@lucky-needle/core/model';
import { printNominal, printNumber, printWithUncertainty } from '@lucky-needle/core/units';
import { useKeepLampLightMutation } from '../../../api/trueUpApi.ts';
import { problemOf } from '../../../api/problemOf.ts';
import { useAppDispatch } from '../../../app/store.ts';
import { toastShown } from '../../../app/toasts.ts';
import { useBench } from '../../../app/useBench.ts';
import { ProblemNote } from '../../../parts/ProblemNote.tsx';
import { useLampLight } from './useLampLight.ts';

/** Counts with the lamps off and through clear water: the server takes them for all lamps at once and puts them in their lines. */
export function BlankCard() {
  const { gadget, points } = useBench();
  const dispatch = useAppDispatch();
  const { data: light, error } = useLampLight(gadget.id);
  const [keepLight, keeping] = useKeepLampLightMutation();
  const lamps = lampsOf(gadget.channels);
  const standards = points.filter((p) =>
    gadget.channels.some((c) => isInLight(c) && c.id === p.channelId),
  ).length;
  const seen = (c: Channel) => light?.lamps.find((l) => l.channelId === c.id);
  const paramsOf = (c: Channel) => c.line.stages.find((s) => s.kind === 'absorbance')!.params;
  const saturated = lamps.filter((c) => seen(c)?.trouble === 'saturated');
  const starved = lamps.filter((c) => seen(c)?.trouble === 'starved');
  const keep = async (as: 'dark' | 'blank') => {
    const kept = await keepLight({ gadgetId: gadget.id, body: { as } });
    if (!kept.data) return;
    const text = as === 'dark' ? 'Dark counts saved in all lines.' : 'Blank saved in all lines.';
    dispatch(toastShown({ text, tone: 'done' }));
  };
  const ready = light && (light.notDark === null || light.notBlank === null);
  return (
    <section className="panel grid gap-3" aria-label="Dark and blank">
      <header className="flex flex-wrap items-center gap-2">
        <h2 className="section-title grow">Dark and blank, all lamps at once</h2>
        <span
          role="status"
          className={`text-sm ${ready ? 'text-success' : 'muted'}`}
          data-testid="lamps-state"
        >
          {!light
            ? 'checking…'
            : light.notDark === null
              ? '✓ dark and steady'
              : light.notBlank === null
                ? '✓ bright and steady'
                : saturated.length > 0
                  ? 'too bright'
                  : 'not steady yet'}
        </span>
        <button
          type="button"
          className="btn btn-sm"
          disabled={keeping.isLoading || light?.notDark !== null}
          onClick={() => void keep('dark')}
        >
          Capture dark
        </button>
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={keeping.isLoading || light?.notBlank !== null}
          onClick={() => void keep('blank')}
        >
          Capture blank
        </button>
      </header>
      <p className="muted text-sm">
        First capture dark with the lamps off and the lid shut, then blank with clear water in the same
        cuvette. Absorbance is measured relative to the blank, so the cuvette and the water cancel out.
        {standards > 0 &&
          ` ${standards === 1 ? 'One standard was' : `${standards} standards were`} measured with the current blank. A new blank applies to ${standards === 1 ? 'it' : 'them'} too, so measure ${standards === 1 ? 'it' : 'them'} again if the lamps have changed.`}
      </p>
      {light && !ready && saturated.length === 0 && (
        <p role="note" className="muted text-sm">
          {light.notBlank}
        </p>
      )}
      <ProblemNote problem={problemOf(keeping.error ?? error)} />
      <div className="overflow-x-auto">
        <table className="table-sm table max-sm:[&_td]:px-1 max-sm:[&_th]:px-1">
          <thead>
            <tr>
              <th className="pl-0">Lamp</th>
              <th className="text-right">Dark</th>
              <th className="text-right">Blank</th>
              <th className="text-right">Current counts</th>
              <th className="text-right">Absorbance</th>
            </tr>
          </thead>
          <tbody className="num">
            {lamps.map((c) => (
              <tr key={c.id}>
                <th scope="row" className="pl-0 font-sans whitespace-nowrap text-base-content">
                  {c.name}
                </th>
                <td className="text-right">{printNominal(Number(paramsOf(c)['dark']), 5)}</td>
                <td className="text-right">{printNominal(Number(paramsOf(c)['blank']), 5)}</td>
                <td className="text-right">{countsText(seen(c)?.counts)}</td>
                <td className="text-right font-semibold">
                  <Absorbed lamp={seen(c)} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {saturated.length > 0 && (
        <p role="alert" className="text-sm text-error">
          {saturated.map((c) => c.name).join(', ')} {saturated.length > 1 ? 'are' : 'is'} saturating the
          detector: reduce the gain or exposure, and shut the lid.
        </p>
      )}
      {starved.length > 0 && (
        <p className="text-sm text-warning">
          {starved.map((c) => c.name).join(', ')} {starved.length > 1 ? 'get' : 'gets'} too little light:
          increase the gain or exposure, or dilute the sample.
        </p>
      )}
    </section>
  );
}

const countsText = (counts: number | null | undefined): string =>
  counts === null || counts === undefined ? '–' : printNumber(counts, 1);

function Absorbed({ lamp }: { lamp: LampLight['lamps'][number] | undefined }) {
  if (!lamp || lamp.counts === null) return '–';
  if (lamp.absorbance === null) return 'no reading';
  const told = printWithUncertainty(lamp.absorbance.value, lamp.absorbance.uncertainty, 'absorbance');
  return (
    <>
      {told.value} {told.uncertainty && <span className="muted font-normal">±{told.uncertainty}</span>}
    </>
  );
}
