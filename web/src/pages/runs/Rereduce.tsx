import { useMemo, useState } from 'react';
import { compileLine, editLine } from '@lucky-needle/core/line';
import type {
  Calibration,
  Channel,
  CompareBody,
  LineSpec,
  LookedAt,
  Recording,
} from '@lucky-needle/core/model';
import { toleranceIn, briefFor } from '@lucky-needle/core/plan';
import { decimalsFor, printNumber, UNITS } from '@lucky-needle/core/units';
import { compareLines, curveOf } from '../../api/readings.ts';
import { canRead, lookLine } from '../../app/lookLine.ts';
import { useAsked } from '../../app/useAsked.ts';
import { useBench } from '../../app/useBench.ts';
import { useShelf } from '../../app/useShelf.ts';
import { Plot } from '../../parts/Plot.tsx';
import type { Reading } from './useConverted.ts';
import { dimensionWord } from '@lucky-needle/core/words';

const POINTS = 1500;

interface ComparedReadings {
  readonly readings: readonly Reading[];
  /** Difference (second − first) where both have a reading. */
  readonly difference: Reading;
  readonly meanDifference: number;
}

interface Version {
  /** "bought", or the number of a calibration. */
  readonly id: string;
  readonly title: string;
  readonly line: LineSpec;
}

/** One recording through two versions of a channel's calibration, side by side: raw samples stay, readings are made anew. */
export function Rereduce({ recording }: { recording: Recording }) {
  const { gadget, calibrations } = useBench();
  const channels = useMemo(
    () =>
      // What goes on from another channel has no calibrations of its own.
      gadget.channels.filter((c) => !c.feed && canRead(recording, gadget, c)),
    [gadget, recording],
  );
  const [channelId, setChannelId] = useState(
    () => (channels.find((c) => recording.versions[c.id] !== undefined) ?? channels[0])?.id ?? '',
  );
  const channel = channels.find((c) => c.id === channelId) ?? null;
  const versions = useMemo(() => (channel ? versionsOf(channel, calibrations) : []), [channel, calibrations]);
  const [picked, setPicked] = useState<readonly [string, string] | null>(null);
  const used = calibrations.find((c) => c.channelId === channelId && c.state === 'in use');
  const [first, second] = picked ?? ['bought', used ? String(used.number) : 'bought'];
  const lines = useMemo(() => {
    const [a, b] = [first, second].map((id) => versions.find((v) => v.id === id));
    return a && b ? ([a, b] as const) : null;
  }, [versions, first, second]);
  const { compared, error } = useCompared(recording, channel, lines);
  if (!channel || !lines || versions.length < 2)
    return (
      <p className="muted p-2 text-sm">
        Only one calibration version so far. Calibrate the channel to compare this run under both versions.
      </p>
    );
  const unit = compileLine(lines[0].line, { sampleRateHz: recording.sampleRateHz }).outputs[0]!.unit;
  const symbol = UNITS[unit].symbol;
  const tolerance = toleranceIn(briefFor(gadget, channel), unit);
  const recordedWith = recording.versions[channel.id];
  const select = (which: 0 | 1, label: string) => (
    <label className="flex items-center gap-2 text-sm">
      <span className="muted whitespace-nowrap">{label}</span>
      <select
        className="select select-sm w-auto"
        value={which === 0 ? first : second}
        onChange={(e) => setPicked(which === 0 ? [e.target.value, second] : [first, e.target.value])}
      >
        {versions.map((v) => (
          <option key={v.id} value={v.id}>
            {v.title}
            {v.id === String(recordedWith) ? ' (active when recorded)' : ''}
          </option>
        ))}
      </select>
    </label>
  );
  return (
    <div className="grid gap-2">
      <div className="flex flex-wrap items-center gap-3">
        {channels.length > 1 && (
          <select
            className="select select-sm w-auto"
            aria-label="Channel to compare"
            value={channelId}
            onChange={(e) => {
              setChannelId(e.target.value);
              setPicked(null);
            }}
          >
            {channels.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </select>
        )}
        {select(0, 'Calculate with')}
        {select(1, 'compared with')}
      </div>
      {error && (
        <p role="alert" className="text-sm text-error">
          {error}
        </p>
      )}
      {compared ? (
        <Side
          compared={compared}
          titles={[lines[0].title, lines[1].title]}
          symbol={symbol}
          label={dimensionWord(UNITS[unit].dimension)}
          tolerance={tolerance}
          startS={recording.firstTimeS ?? 0}
        />
      ) : (
        !error && (
          <p role="status" className="muted text-sm">
            Calculating both versions…
          </p>
        )
      )}
    </div>
  );
}

interface SideProps {
  readonly compared: ComparedReadings;
  readonly titles: readonly [string, string];
  readonly symbol: string;
  readonly label: string;
  readonly tolerance: number | null;
  readonly startS: number;
}

function Side({ compared, titles, symbol, label, tolerance, startS }: SideProps) {
  const { readings, difference, meanDifference } = compared;
  const d = decimalsFor(
    tolerance ? tolerance / 10 : Math.abs(readings[0]!.high - readings[0]!.low) / 1000 || 1,
  );
  const long = (readings[0]!.times.at(-1) ?? 0) - startS > 600;
  const since = (times: Float64Array) => times.map((t) => (t - startS) / (long ? 60 : 1));
  const axisX = { label: 'Time since start', unit: long ? 'min' : 's' };
  const largest = Math.max(Math.abs(difference.low), Math.abs(difference.high));
  return (
    <>
      <div className="overflow-x-auto">
        {' '}
        <table className="table-sm table" aria-label="Both versions">
          <thead>
            <tr>
              <th className="pl-0">Version</th>
              <th className="text-right">Lowest, {symbol}</th>
              <th className="text-right">Highest, {symbol}</th>
              <th className="text-right">No value</th>
            </tr>
          </thead>
          <tbody className="num">
            {readings.map((r, i) => (
              <tr key={i}>
                <th scope="row" className="pl-0 font-sans text-base-content">
                  {titles[i]}
                </th>
                <td className="text-right">{printNumber(r.low, d)}</td>
                <td className="text-right">{printNumber(r.high, d)}</td>
                <td className="text-right">{r.bad}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="text-sm" data-testid="rereduced">
        The second version differs from the first by{' '}
        <span className="num font-semibold">
          {printNumber(meanDifference, d, true)} {symbol}
        </span>{' '}
        on average and by up to{' '}
        <span className="num font-semibold">
          {printNumber(largest, d)} {symbol}
        </span>
        {tolerance !== null &&
          (largest > tolerance
            ? `: more than the brief’s ±${tolerance} ${symbol}, so it matters which one is right`
            : `: within the brief’s ±${tolerance} ${symbol}`)}
        .
      </p>
      <Plot
        title="Both readings"
        series={readings.map((r, i) => ({
          label: titles[i]!,
          x: since(r.times),
          y: r.values,
          ink: i === 0 ? ('muted' as const) : ('trace' as const),
          style: 'line' as const,
        }))}
        x={axisX}
        y={{ label, unit: symbol }}
        height={220}
      />
      <Plot
        title="Difference (second − first)"
        series={[
          {
            label: 'difference (second − first)',
            x: since(difference.times),
            y: difference.values,
            ink: 'trace2',
            style: 'line',
          },
        ]}
        x={axisX}
        y={{ label: 'Difference', unit: symbol }}
        {...(tolerance === null
          ? {}
          : { bands: [{ axis: 'y' as const, from: -tolerance, to: tolerance, ink: 'tolerance' as const }] })}
        height={130}
      />
    </>
  );
}

/** The line as bought and with each calibration that still fits it. */
function versionsOf(channel: Channel, calibrations: readonly Calibration[]): Version[] {
  const own = calibrations
    .filter((c) => c.channelId === channel.id)
    .filter((c) => c.result.edits.every((e) => channel.line.stages.some((s) => s.id === e.stageId)));
  return [
    { id: 'bought', title: 'uncalibrated', line: channel.line },
    ...own.map((c) => ({
      id: String(c.number),
      title: `calibration ${c.number}${c.state === 'in use' ? ', active' : ''}`,
      line: editLine(channel.line, c.result.edits),
    })),
  ];
}

interface Question {
  readonly recordingId: string;
  readonly body: CompareBody;
}
const ask = ({ recordingId, body }: Question, signal: AbortSignal) => compareLines(recordingId, body, signal);

function useCompared(
  recording: Recording,
  channel: Channel | null,
  lines: readonly [Version, Version] | null,
): { readonly compared: ComparedReadings | null; readonly error: string | null } {
  const bench = useBench();
  const shelf = useShelf();
  const question = useMemo<Question | null>(() => {
    if (!lines || !channel) return null;
    const [first, second] = lines.map(({ line }) => lookLine(bench, channel, shelf, recording, line));
    return { recordingId: recording.id, body: { first: first!, second: second!, points: POINTS } };
  }, [bench, channel, lines, recording, shelf]);
  const { answer, error } = useAsked(question, ask);
  const compared = useMemo<ComparedReadings | null>(
    () =>
      answer && {
        readings: answer.readings.map(drawn),
        difference: drawn(answer.difference),
        meanDifference: answer.meanDifference ?? Number.NaN,
      },
    [answer],
  );
  return { compared, error: error && `Cannot calculate both versions: ${error}` };
}

const drawn = (look: LookedAt): Reading => ({
  ...curveOf(look),
  low: look.low ?? Number.NaN,
  high: look.high ?? Number.NaN,
  bad: look.bad,
});
