import { useEffect, useMemo, useState } from 'react';
import type { Recording, StepsAnswer, StepsBody } from '@lucky-needle/core/model';
import { briefFor, toleranceIn } from '@lucky-needle/core/plan';
import { addedUp, lessFloor, type SteadyRule } from '@lucky-needle/core/trial';
import { printNumber, printSignificant, readingDecimals, UNITS, type UnitId } from '@lucky-needle/core/units';
import { loadSteps } from '../../api/readings.ts';
import { lookLine } from '../../app/lookLine.ts';
import { useAsked } from '../../app/useAsked.ts';
import { useBench } from '../../app/useBench.ts';
import { useShelf } from '../../app/useShelf.ts';
import { AskedNote } from '../../parts/AskedNote.tsx';
import { Choice } from '../../parts/Choice.tsx';
import { NumberField } from '../../parts/NumberField.tsx';
import { duration } from './Stretches.tsx';
import type { Converted, Stretch } from './useConverted.ts';

interface Props {
  readonly recording: Recording;
  readonly converted: Converted;
  readonly within: Stretch | null;
  readonly startS: number;
  /** Looks at a stretch, s since the start. */
  onLook(fromS: number, toS: number): void;
}
interface Question {
  readonly recordingId: string;
  readonly body: StepsBody;
}
const ask = ({ recordingId, body }: Question, signal: AbortSignal) => loadSteps(recordingId, body, signal);

/** Rows that are told; more of them say nothing more. */
const MOST_ROWS = 50;
const NO_FLOOR = '';
const atLeast0 = (v: number) => (v >= 0 ? null : `Enter 0 or more, not ${v}.`);

/** The steps of a load: where one channel stands still, what every channel reads there, and what adds up. */
export function StepsCard({ recording, converted, within, startS, onLook }: Props) {
  const bench = useBench();
  const shelf = useShelf();
  const { gadget } = bench;
  const usual = (['W', 'A'] as const)
    .map((unit) => converted.find((c) => UNITS[c.unit].dimension === UNITS[unit].dimension))
    .find((c) => c !== undefined);
  const [leadId, setLeadId] = useState((usual ?? converted[0]!).id);
  const [rule, setRule] = useState<SteadyRule | null>(null);
  const [floorOf, setFloorOf] = useState(NO_FLOOR);
  useEffect(() => setFloorOf(NO_FLOOR), [leadId, rule, within]);
  const lead = converted.find((c) => c.id === leadId) ?? converted[0]!;
  const question = useMemo<Question>(() => {
    const own = gadget.channels.filter((c) => converted.some((k) => k.id === c.id));
    const ordered = [...own.filter((c) => c.id === lead.id), ...own.filter((c) => c.id !== lead.id)];
    return {
      recordingId: recording.id,
      body: {
        lines: ordered.map((c) => lookLine(bench, c, shelf, recording)),
        fromS: within?.fromS ?? null,
        toS: within?.toS ?? null,
        rule,
      },
    };
  }, [bench, gadget.channels, converted, lead.id, recording, shelf, within, rule]);
  const { answer, error, share } = useAsked(question, ask);
  const symbol = UNITS[lead.unit].symbol;
  const set = (change: Partial<SteadyRule>) =>
    setRule({ ...(answer?.rule ?? { windowS: 5, drift: 0, scatter: 0 }), ...change });
  return (
    <div className="grid gap-2 py-2">
      <div className="flex flex-wrap items-start gap-x-4 gap-y-2">
        <Choice
          label="Channel to be steady"
          value={lead.id}
          options={converted.map((c) => [c.id, c.name] as const)}
          onChange={(id) => {
            setLeadId(id);
            setRule(null);
          }}
        />
        {answer && (
          <>
            <NumberField
              className="w-28"
              label="Steady for at least"
              unit="s"
              value={answer.rule.windowS}
              check={(v) => (v > 0 ? null : `Enter a value above 0, not ${v}.`)}
              onChange={(windowS) => set({ windowS })}
            />
            <NumberField
              className="w-32"
              label="Drift at most"
              unit={symbol}
              value={Number(answer.rule.drift.toPrecision(3))}
              check={atLeast0}
              onChange={(drift) => set({ drift })}
            />
            <NumberField
              className="w-32"
              label="Scatter at most"
              unit={symbol}
              value={Number(answer.rule.scatter.toPrecision(3))}
              check={atLeast0}
              onChange={(scatter) => set({ scatter })}
            />
            {answer.steps.length > 1 && (
              <Choice
                label="Noise floor to subtract"
                value={floorOf}
                options={[
                  [NO_FLOOR, 'none'],
                  ...answer.steps
                    .slice(0, MOST_ROWS)
                    .map((_, k) => [String(k), `reading of step ${k + 1}`] as const),
                ]}
                onChange={setFloorOf}
              />
            )}
          </>
        )}
      </div>
      <AskedNote error={error} isWaiting={share !== null && !answer} />
      {answer && !error && (
        <>
          <p role="status">
            {answer.count === 0
              ? `${lead.name} is never steady for that long in this section.`
              : answer.count === 1
                ? `1 steady section on ${lead.name}.`
                : `${answer.count.toLocaleString('en')} steady sections on ${lead.name}.`}{' '}
            <span className="muted">{answer.why}</span>
          </p>
          {answer.count > 0 && (
            <StepsTable
              answer={answer}
              converted={[lead, ...converted.filter((c) => c.id !== lead.id)]}
              startS={startS}
              floor={floorOf === NO_FLOOR ? null : Number(floorOf)}
              onLook={onLook}
            />
          )}
        </>
      )}
    </div>
  );
}

interface TableProps {
  readonly answer: StepsAnswer;
  /** The one that stands still first. */
  readonly converted: Converted;
  readonly startS: number;
  /** The step that is only noise; null for none. */
  readonly floor: number | null;
  onLook(fromS: number, toS: number): void;
}

function StepsTable({ answer, converted, startS, floor, onLook }: TableProps) {
  const { gadget } = useBench();
  const columns = converted.map(({ id, name, unit }) => {
    const channel = gadget.channels.find((c) => c.id === id)!;
    // Whole cycles: effective values, of which no charge adds up.
    const isEffective = channel.line.stages.some((s) => s.kind === 'ac-power' && !s.off) && unit !== 'W';
    const sum = addedUp(unit);
    return {
      id,
      name,
      unit,
      isEffective,
      isLess: sum !== null,
      sum: isEffective ? null : sum,
      decimals: readingDecimals(null, toleranceIn(briefFor(gadget, channel), unit)),
    };
  });
  const meanOf = (k: number, id: string) =>
    answer.steps[k]?.channels.find((c) => c.id === id)?.mean ?? Number.NaN;
  const shown = (k: number, { id, isLess, isEffective }: (typeof columns)[number]) =>
    floor === null || !isLess ? meanOf(k, id) : lessFloor(meanOf(k, id), meanOf(floor, id), isEffective);
  const summed = columns.filter((c) => c.sum !== null);
  const withUnit = (title: string, unit: UnitId) =>
    UNITS[unit].symbol ? `${title}, ${UNITS[unit].symbol}` : title;
  const orDash = (value: number, print: (value: number) => string) =>
    Number.isNaN(value) ? '–' : print(value);
  const means = columns.map((c) => ({
    title: withUnit(c.name, c.unit),
    textOf: (k: number) => orDash(shown(k, c), (v) => printNumber(v, c.decimals)),
  }));
  const sums = summed.map((c) => {
    const sumOf = (k: number) => shown(k, c) * (answer.steps[k]!.toS - answer.steps[k]!.fromS) * c.sum!.each;
    const largest = Math.max(...answer.steps.map((_, k) => Math.abs(sumOf(k)) || 0));
    // As many decimals in all rows as three digits of the largest want.
    const decimals = largest > 0 ? Math.max(0, 2 - Math.floor(Math.log10(largest))) : 0;
    return {
      title: withUnit(summed.length > 1 ? `${c.sum!.title} of ${c.name}` : c.sum!.title, c.sum!.to),
      textOf: (k: number) => orDash(sumOf(k), (v) => printNumber(v, decimals)),
    };
  });
  const shownColumns = [...means.slice(0, 1), ...sums, ...means.slice(1)];
  return (
    <>
      <div className="overflow-x-auto">
        <table className="table-sm table" aria-label="Load steps">
          <thead>
            <tr>
              <th className="pl-0">Step</th>
              <th className="text-right">Start</th>
              <th className="text-right">Duration</th>
              {shownColumns.map(({ title }) => (
                <th key={title} className="text-right">
                  {title}
                </th>
              ))}
              <th />
            </tr>
          </thead>
          <tbody className="num">
            {answer.steps.slice(0, MOST_ROWS).map(({ fromS, toS }, k) => (
              <tr key={fromS} className={k === floor ? 'muted' : ''}>
                <td className="pl-0">{k + 1}</td>
                <td className="text-right whitespace-nowrap">{duration(fromS - startS)}</td>
                <td className="text-right whitespace-nowrap">{duration(toS - fromS)}</td>
                {shownColumns.map(({ title, textOf }) => (
                  <td key={title} className="text-right whitespace-nowrap">
                    {textOf(k)}
                  </td>
                ))}
                <td className="text-right">
                  <button
                    type="button"
                    className="btn btn-ghost btn-xs font-sans"
                    onClick={() => onLook(fromS - startS, toS - startS)}
                  >
                    Show
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {answer.count > MOST_ROWS && (
        <p className="muted text-xs">The first {MOST_ROWS} are listed. Zoom in to list the others.</p>
      )}
      {floor !== null && (
        <p className="muted text-xs">
          {columns
            .filter((c) => c.isLess)
            .map(
              (c) =>
                `${c.name} minus ${printSignificant(meanOf(floor, c.id), 2)} ${UNITS[c.unit].symbol}${c.isEffective ? ' (in quadrature)' : ''}`,
            )
            .join('; ')}
          , because you set step {floor + 1} as the noise floor. Everything else is unchanged.
        </p>
      )}
    </>
  );
}
