import { readingAtRest, compileLine, LineError } from '@lucky-needle/core/line';
import type { Channel, LineSpec } from '@lucky-needle/core/model';
import { printNominal } from '@lucky-needle/core/units';
import { useBench } from '../../../app/useBench.ts';
import { useLive } from '../../../live/useLive.ts';
import { ProblemNote } from '../../../parts/ProblemNote.tsx';
import { useSaveGadget } from '../../../parts/useSaveGadget.ts';
import { newestMean } from './newestMean.ts';

const SECONDS = 3;

/** Channels that read light through the same glass: one dark and one blank serve them all. */
const inLight = (channels: readonly Channel[]): Channel[] =>
  channels.filter((c) => c.line.sources.length === 1 && c.line.stages.some((s) => s.kind === 'absorbance'));

/** The same, one for each lamp: what is worked on from a lamp's absorbance is no lamp more. */
export const lampsOf = (channels: readonly Channel[]): Channel[] =>
  inLight(channels).filter(
    (c, i, all) => all.findIndex((d) => d.line.sources[0]!.column === c.line.sources[0]!.column) === i,
  );

const withLight = (line: LineSpec, params: Partial<Record<'dark' | 'blank', number>>): LineSpec => ({
  ...line,
  stages: line.stages.map((s) =>
    s.kind === 'absorbance' ? { ...s, params: { ...s.params, ...params } } : s,
  ),
});

/** Counts with the lamps off and through clear water, taken for all lamps at once and put in their lines. */
export function BlankCard() {
  const { gadget, points } = useBench();
  const { columns, times } = useLive();
  const { save, saving, problem } = useSaveGadget(gadget);
  const lamps = lampsOf(gadget.channels);
  const standards = points.filter((p) => inLight(gadget.channels).some((c) => c.id === p.channelId)).length;
  const now = lamps.map((c) => newestMean(times, columns.get(c.line.sources[0]!.column), SECONDS));
  const complete = now.every((n) => n !== null);
  const paramsOf = (c: Channel) => c.line.stages.find((s) => s.kind === 'absorbance')!.params;
  // A blank is bright for every lamp and ends nowhere; a dark one lies far below every blank.
  const bright = complete && lamps.every((c, i) => now[i]!.mean > 5 * Number(paramsOf(c)['dark']));
  const saturated = lamps.filter((c, i) => (now[i]?.mean ?? 0) > 0.97 * Number(paramsOf(c)['fullScale']));
  const starved = bright ? lamps.filter((c, i) => now[i]!.mean < 0.1 * Number(paramsOf(c)['fullScale'])) : [];
  const keep = (name: 'dark' | 'blank') =>
    void save(
      {
        channels: gadget.channels.map((c) => {
          if (!inLight([c]).length) return c;
          const i = lamps.findIndex((l) => l.line.sources[0]!.column === c.line.sources[0]!.column);
          return { ...c, line: withLight(c.line, { [name]: Number(now[i]!.mean.toPrecision(6)) }) };
        }),
      },
      name === 'dark' ? 'Dark counts are put in all lines.' : 'The blank is put in all lines.',
    );
  return (
    <section className="panel grid gap-3" aria-label="Dark and blank">
      <header className="flex flex-wrap items-center gap-2">
        <h2 className="section-title grow">Dark and blank, for all lamps at once</h2>
        <button
          type="button"
          className="btn btn-sm"
          disabled={saving || !complete || bright}
          onClick={() => keep('dark')}
        >
          Keep as dark
        </button>
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={saving || !bright || saturated.length > 0}
          onClick={() => keep('blank')}
        >
          Keep as blank
        </button>
      </header>
      <p className="muted text-sm">
        First with the lamps off and the lid shut; then clear water in the same glass. Absorbance is counted
        from the blank, so the glass and the water fall out.
        {standards > 0 &&
          ` ${standards === 1 ? 'One standard was' : `${standards} standards were`} read by the blank in use: a new one counts for ${standards === 1 ? 'it' : 'them'} too, so read ${standards === 1 ? 'it' : 'them'} again if the lamps have changed.`}
      </p>
      <ProblemNote problem={problem} />
      <div className="overflow-x-auto">
        <table className="table-sm table">
          <thead>
            <tr>
              <th className="pl-0">Lamp</th>
              <th className="text-right">Dark</th>
              <th className="text-right">Blank</th>
              <th className="text-right">Now, counts</th>
              <th className="text-right">Absorbance</th>
            </tr>
          </thead>
          <tbody className="num">
            {lamps.map((c, i) => (
              <tr key={c.id}>
                <th scope="row" className="pl-0 font-sans whitespace-nowrap text-base-content">
                  {c.name}
                </th>
                <td className="text-right">{printNominal(Number(paramsOf(c)['dark']), 5)}</td>
                <td className="text-right">{printNominal(Number(paramsOf(c)['blank']), 5)}</td>
                <td className="text-right">{now[i] ? printNominal(now[i].mean, 5) : '–'}</td>
                <td className="text-right font-semibold">{now[i] ? absorbanceText(c, now[i].mean) : '–'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {saturated.length > 0 && (
        <p role="alert" className="text-sm text-error">
          {saturated.map((c) => c.name).join(', ')} {saturated.length > 1 ? 'are' : 'is'} at the detector’s
          end: less gain or a shorter exposure, and the lid shut.
        </p>
      )}
      {starved.length > 0 && (
        <p className="text-sm text-warning">
          {starved.map((c) => c.name).join(', ')} {starved.length > 1 ? 'get' : 'gets'} little light: more
          gain or a longer exposure, or dilute what is in the glass.
        </p>
      )}
    </section>
  );
}

/** Absorbance at so many counts, by the line up to the stage that gives it. */
export function absorbanceAt(channel: Channel, counts: number): number {
  const at = channel.line.stages.findIndex((s) => s.kind === 'absorbance');
  try {
    const line = compileLine(
      { ...channel.line, stages: channel.line.stages.slice(0, at + 1) },
      { sampleRateHz: 1 },
    );
    return readingAtRest(line, counts);
  } catch (error) {
    if (error instanceof LineError) return Number.NaN;
    throw error;
  }
}

function absorbanceText(channel: Channel, counts: number): string {
  const value = absorbanceAt(channel, counts);
  return Number.isFinite(value) ? value.toFixed(3).replace('-', '−') : 'no number';
}
