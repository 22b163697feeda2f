import { useState } from 'react';
import { approachOf, type SteadyLimits, type SteadyState } from '@lucky-needle/core/calibrate';
import type { CompiledLine } from '@lucky-needle/core/line';
import type { Recording } from '@lucky-needle/core/model';
import { printNominal } from '@lucky-needle/core/units';
import { NumberField } from '../../parts/NumberField.tsx';
import { fetchWindow } from '../../api/fetchWindow.ts';
import { printCapture } from './printCapture.ts';
import { benchWorker } from '../../workers/benchWorker.ts';

interface Props {
  readonly recordings: readonly Recording[];
  readonly column: string;
  /** Tells from which side it came to rest; null when the line cannot run. */
  readonly line: CompiledLine | null;
  readonly limits: SteadyLimits | null;
  readonly lastCode: number;
  /** Steady stretch of a recording that stands in for the live window; null for the live one. */
  readonly taken: SteadyState | null;
  onTake(taken: SteadyState | null): void;
}

/** A stretch of a recording in the place of the live window: marked by its seconds, judged by the same limits. */
export function RecordedCapture(props: Props) {
  const { recordings, column, limits, taken, onTake } = props;
  const usable = recordings.filter(
    (r) => r.state !== 'recording' && r.sampleCount > 0 && r.columns.some((c) => c.name === column),
  );
  const [id, setId] = useState(usable[0]?.id ?? '');
  const [fromS, setFromS] = useState(0);
  const [toS, setToS] = useState(10);
  const [told, setTold] = useState<string | null>(null);
  const recording = usable.find((r) => r.id === id) ?? usable[0];
  if (!recording) return null;
  const lengthS = (recording.lastTimeS ?? 0) - (recording.firstTimeS ?? 0);
  const inside = (v: number) => (v >= 0 && v <= lengthS ? null : `Enter 0 to ${printNominal(lengthS, 5)} s.`);
  return (
    <details className="text-sm">
      <summary className="cursor-pointer rounded-field">Use a run instead</summary>
      <div className="mt-2 grid grid-cols-2 gap-2">
        <select
          className="select select-sm col-span-2 w-full"
          aria-label="Run to capture from"
          value={recording.id}
          onChange={(e) => {
            setId(e.target.value);
            onTake(null);
          }}
        >
          {usable.map((r) => (
            <option key={r.id} value={r.id}>
              {r.name}
            </option>
          ))}
        </select>
        <NumberField label="From" unit="s" value={fromS} check={inside} onChange={setFromS} />
        <NumberField label="To" unit="s" value={toS} check={inside} onChange={setToS} />
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <button
          type="button"
          className="btn btn-xs"
          disabled={!limits || !(toS > fromS)}
          onClick={async () => {
            try {
              const found = await captureOf(recording, fromS, toS, { ...props, limits: limits! });
              onTake(found.steady && found.capture ? found : null);
              setTold(found.steady ? null : (found.waitingFor ?? 'This section is not steady.'));
            } catch (error) {
              onTake(null);
              setTold((error as Error).message);
            }
          }}
        >
          Use this section
        </button>
        {taken?.capture && (
          <>
            <span className="text-success">
              ✓ {printCapture(taken.capture).value} counts over {taken.capture.n} readings
              {taken.capture.approach && `, approached ${taken.capture.approach}`}
            </span>
            <button type="button" className="btn btn-ghost btn-xs" onClick={() => onTake(null)}>
              Back to live
            </button>
          </>
        )}
      </div>
      {told && (
        <p role="alert" className="mt-1 text-warning">
          {told}
        </p>
      )}
    </details>
  );
}

/** So far back it is looked for where the reading came from, s. */
const LOOKED_BACK_S = 120;

/** Samples that a capture takes at the most: the server keeps more than any stretch that stands still. */
const MOST = 2_000_000;

/** A stretch of a recording's raw column as a steady window, judged as the live one is; seconds since the recording's start. */
async function captureOf(
  recording: Recording,
  fromS: number,
  toS: number,
  { column, line, limits, lastCode }: Pick<Props, 'column' | 'line' | 'lastCode'> & { limits: SteadyLimits },
): Promise<SteadyState> {
  const block = await windowOf(recording, fromS, toS);
  const at = block.header.columns.findIndex((c) => c.name === column);
  if (at < 0)
    throw new RangeError(
      `This run has no column "${column}". Its columns: ${block.header.columns.map((c) => c.name).join(', ')}.`,
    );
  if (block.header.reducedBy > 1)
    throw new RangeError(`The section is too long: select fewer than ${MOST.toLocaleString('en')} samples.`);
  // All of the stretch counts: the maker has marked it.
  const windowS = Math.max(0, toS - fromS - 1.5 / recording.sampleRateHz);
  const state = await benchWorker().steady(
    block.times.slice(),
    block.columns[at]!.slice(),
    { ...limits, windowS },
    lastCode,
  );
  if (!state.steady || !state.capture || !line) return state;
  // From which side it came is told by what was before the stretch.
  const before = await windowOf(recording, Math.max(0, fromS - LOOKED_BACK_S), toS);
  if (before.header.reducedBy > 1) return state;
  const approach = approachOf(line, before.times, before.columns[at]!, toS - fromS, LOOKED_BACK_S);
  return approach ? { ...state, capture: { ...state.capture, approach } } : state;
}

const windowOf = ({ id, firstTimeS }: Recording, fromS: number, toS: number) =>
  fetchWindow(id, MOST, null, { fromS: (firstTimeS ?? 0) + fromS, toS: (firstTimeS ?? 0) + toS });
