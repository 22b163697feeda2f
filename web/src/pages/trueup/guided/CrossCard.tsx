import { useState } from 'react';
import { crossAnswers, type Exposure, type TypedAnswer } from '@lucky-needle/core/calibrate';
import { compileLine } from '@lucky-needle/core/line';
import type { Channel, EvidencePoint, ReferenceInput } from '@lucky-needle/core/model';
import { instrumentFor } from '@lucky-needle/core/references';
import { printNominal, printWithin, UNITS, type UnitId } from '@lucky-needle/core/units';
import {
  useExposeMutation,
  usePatchEvidenceMutation,
  useTakeOthersOffMutation,
} from '../../../api/trueUpApi.ts';
import { problemOf } from '../../../api/problemOf.ts';
import { useAppDispatch } from '../../../app/store.ts';
import { toastShown } from '../../../app/toasts.ts';
import { useBench } from '../../../app/useBench.ts';
import { useLiveOf } from '../../../live/useLive.ts';
import { NumberField } from '../../../parts/NumberField.tsx';
import { ProblemNote } from '../../../parts/ProblemNote.tsx';
import { useFaults } from '../../../parts/useFaults.ts';
import { ReferenceFields } from '../ReferenceFields.tsx';

/** What a paper's answer is good to where nobody says, as a share. */
const TYPED_U = 0.3;

interface Props {
  /** The channel that is chosen on the page: its quantity is the one that is there. */
  readonly channel: Channel;
  /** All that could answer to each other. */
  readonly channels: readonly Channel[];
}

/** What each of several elements answers to the others' quantities, by exposures one at a time, and that taken off all of them. */
export function CrossCard({ channel, channels }: Props) {
  const { gadget, evidence } = useBench();
  const dispatch = useAppDispatch();
  const status = useLiveOf((live) => live.status);
  const { wrong, tellFault } = useFaults();
  const [expose, exposing] = useExposeMutation();
  const [takeOff, takingOff] = useTakeOthersOffMutation();
  const [patchEvidence] = usePatchEvidenceMutation();
  const [typed, setTyped] = useState<readonly TypedAnswer[]>([]);
  const instruments = status?.instruments ?? [];
  const unit = unitOf(channel, gadget.sampleRateHz);
  const columns = channel.line.sources.map((s) => s.column);
  const beside = instrumentFor(instruments, unit, columns);
  const [reference, setReference] = useState<ReferenceInput>({
    kind: 'instrument',
    reading: beside?.value ?? 0,
    uncertainty: beside?.uncertainty ?? 1,
  });
  const ids = channels.map((c) => c.id);
  const kept = evidence.flatMap((e): KeptExposure[] =>
    e.excluded === null && e.evidence.kind === 'exposure' ? [{ ...e, evidence: e.evidence }] : [],
  );
  // A few numbers: worked out anew each time, no cost is to be seen.
  const told = crossAnswers(
    ids,
    kept.map((e) => e.evidence),
    typed,
  );
  const inUse = channels.filter((c) => c.line.stages.some((s) => s.kind === 'less-others' && !s.off));
  const keep = async () => {
    const answer = await expose({ gadgetId: gadget.id, body: { channelId: channel.id, reference } });
    if (answer.data)
      dispatch(
        toastShown({
          text: `Captured the response of all sensors to ${channel.name}.`,
          tone: 'done',
        }),
      );
  };
  const use = async () => {
    const answer = await takeOff({ gadgetId: gadget.id, body: { channelIds: ids, typed: [...typed] } });
    if (answer.data)
      dispatch(toastShown({ text: 'Cross-sensitivity is now subtracted on all channels.', tone: 'done' }));
  };
  return (
    <section className="panel grid gap-3" aria-label="Cross-sensitivity">
      <header className="flex flex-wrap items-center gap-3">
        <h2 className="section-title grow">Cross-sensitivity</h2>
        <button
          type="button"
          className="btn btn-sm"
          disabled={exposing.isLoading || wrong.length > 0 || status?.state !== 'up'}
          onClick={() => void keep()}
        >
          {exposing.isLoading ? 'Measuring…' : `Capture: only ${channel.name} present`}
        </button>
      </header>
      <p className="muted text-sm">
        Each sensor also responds a little to the gases of the others. Calibrate all channels first. Then fill
        the box with a known amount of one gas only, wait until all readings are steady, and capture it.
        Repeat for each gas, choosing its channel at the top of the page.
      </p>
      <ReferenceFields
        value={reference}
        onChange={setReference}
        onFault={tellFault}
        unit={unit}
        gadget={gadget}
        instruments={instruments}
        columns={columns}
      />
      <ProblemNote problem={problemOf(exposing.error ?? takingOff.error)} />
      <div className="overflow-x-auto">
        <table className="table-sm table" aria-label="Cross-sensitivities">
          <thead>
            <tr>
              <th className="pl-0">Response per {UNITS[unit].symbol} of</th>
              {channels.map((c) => (
                <th key={c.id} className="text-right">
                  {c.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody className="num">
            {channels.map((to, j) => (
              <tr key={to.id}>
                <th scope="row" className="pl-0 font-sans text-base-content">
                  {to.name}
                </th>
                {channels.map((on, i) => (
                  <td key={on.id} className="text-right">
                    {i === j ? (
                      <span className="muted">1</span>
                    ) : (
                      <Answer
                        label={`Response of ${on.name} to ${to.name}`}
                        answer={told.answers[i]![j]!}
                        u={told.u[i]![j]!}
                        onType={(answer) =>
                          setTyped([
                            ...typed.filter((t) => t.on !== on.id || t.to !== to.id),
                            { on: on.id, to: to.id, answer, u: TYPED_U * Math.abs(answer) },
                          ])
                        }
                      />
                    )}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {typed.length > 0 && (
        <p className="muted text-xs">
          Typed values are assumed accurate to ±{200 * TYPED_U} %; a captured exposure is more accurate.{' '}
          <button type="button" className="btn btn-ghost btn-xs" onClick={() => setTyped([])}>
            Discard typed values
          </button>
        </p>
      )}
      {kept.length > 0 && (
        <ul className="grid gap-1 text-sm" aria-label="Captured exposures">
          {kept.map((e) => (
            <li key={e.id} className="flex flex-wrap items-baseline gap-x-3">
              <span>
                {nameOf(channels, e.evidence.of)}{' '}
                <span className="num">
                  {printWithin(e.evidence.dose, e.evidence.uncertainty)} {UNITS[e.evidence.unit].symbol}
                </span>
              </span>
              <button
                type="button"
                className="btn btn-ghost btn-xs ml-auto"
                onClick={() =>
                  void patchEvidence({ id: e.id, patch: { excluded: 'other gases were present' } })
                }
              >
                Exclude
              </button>
            </li>
          ))}
        </ul>
      )}
      <div className="flex flex-wrap items-center gap-3">
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={told.weights === null || takingOff.isLoading}
          onClick={() => void use()}
        >
          Subtract cross-sensitivity on all channels
        </button>
        <span
          role="status"
          className={`text-sm ${inUse.length === channels.length ? 'text-success' : 'muted'}`}
        >
          {told.problem === 'missing'
            ? 'Some exposures are missing.'
            : told.problem === 'alike'
              ? 'The responses are too similar to separate these gases.'
              : inUse.length === channels.length
                ? '✓ Cross-sensitivity is subtracted on all channels.'
                : 'Not subtracted yet.'}
        </span>
      </div>
    </section>
  );
}

type KeptExposure = EvidencePoint & { readonly evidence: Exposure };

interface AnswerProps {
  readonly label: string;
  readonly answer: number;
  readonly u: number;
  onType(answer: number): void;
}

/** One answer, seen or typed; typing takes the place of what was seen. */
function Answer({ label, answer, u, onType }: AnswerProps) {
  const [isTyping, setTyping] = useState(false);
  if (isTyping)
    return (
      <NumberField
        className="ml-auto max-w-24"
        label={label}
        value={Number.isNaN(answer) ? null : Number(answer.toPrecision(3))}
        onChange={onType}
        check={(v) => (Math.abs(v) <= 10 ? null : 'Enter −10 to 10.')}
      />
    );
  return (
    <button
      type="button"
      className="btn btn-ghost btn-xs"
      aria-label={`${label}: ${Number.isNaN(answer) ? 'unknown' : printNominal(answer, 2)}; edit`}
      onClick={() => setTyping(true)}
    >
      {Number.isNaN(answer) ? <span className="muted font-sans">unknown</span> : printWithin(answer, 2 * u)}
    </button>
  );
}

const nameOf = (channels: readonly Channel[], id: string) => channels.find((c) => c.id === id)?.name ?? id;

const unitOf = ({ line }: Channel, sampleRateHz: number): UnitId =>
  compileLine(line, { sampleRateHz }).outputs[0]!.unit;
