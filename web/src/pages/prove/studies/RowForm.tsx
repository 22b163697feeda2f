import type { InstrumentBeside } from '@lucky-needle/core/references';
import { useState, type ReactNode } from 'react';
import type { Recording, StudySource } from '@lucky-needle/core/model';
import type { StudyColumn, StudyKind } from '@lucky-needle/core/study';
import { printNumber, printSignificant, UNITS, type UnitId } from '@lucky-needle/core/units';
import { parseTyped } from '../../../parts/NumberField.tsx';
import { LiveTrial } from './LiveTrial.tsx';
import type { ShownNow } from './useShownNow.ts';
import { CHOICE_WORDS, lowerFirst } from '@lucky-needle/core/words';

export interface NewRow {
  readonly values: Readonly<Record<string, number | string>>;
  readonly from: StudySource;
}

interface Props {
  readonly kind: StudyKind;
  readonly unit: UnitId;
  readonly shown: ShownNow;
  readonly beside: InstrumentBeside | null;
  readonly busy: boolean;
  /** Offers what runs came to, for the column that holds what the gadget shows. */
  resultOfRun?(take: (value: number, run: Recording) => void): ReactNode;
  /** Keeps the row; false when it was refused. */
  onKeep(row: NewRow): Promise<boolean>;
}

const isNumber = ({ holds }: StudyColumn) => ['shown', 'reference', 'number', 'count'].includes(holds);
const today = () => new Date().toISOString().slice(0, 10);

/** One row of evidence: typed, or taken from the gadget as it reads now. */
export function RowForm({ kind, unit, shown, beside, busy, resultOfRun, onKeep }: Props) {
  const start = () =>
    Object.fromEntries(
      kind.columns.map((c) => [
        c.id,
        c.holds === 'choice' ? c.choices![0]! : c.holds === 'day' ? today() : '',
      ]),
    );
  const [texts, setTexts] = useState<Record<string, string>>(start);
  const [from, setFrom] = useState<StudySource>({ kind: 'typed' });
  const [fault, setFault] = useState<string | null>(null);
  const set = (id: string, text: string) => {
    setTexts((now) => ({ ...now, [id]: text }));
    setFault(null);
  };
  const reads = kind.columns.find((c) => c.holds === 'shown');
  const refers = kind.columns.find((c) => c.holds === 'reference');
  const take = () => {
    // Both at the same moment: what moves does not come between them.
    if (reads) set(reads.id, exact(shown.value));
    if (refers && beside) set(refers.id, exact(beside.value));
    setFrom({ kind: 'live' });
  };
  const keep = async () => {
    const values: Record<string, number | string> = {};
    for (const column of kind.columns) {
      const text = texts[column.id]!.trim();
      if (text === '') {
        if (!column.optional) return setFault(`${column.title}: enter a value.`);
        continue;
      }
      const value = isNumber(column) ? parseTyped(text) : text;
      if (Number.isNaN(value))
        return setFault(`${column.title}: “${text}” is not a number. Enter one such as 21.5.`);
      values[column.id] = value;
    }
    if (!(await onKeep({ values, from }))) return;
    // Choices, days and texts stay: the next row is mostly of the same kind.
    setTexts((now) => Object.fromEntries(kind.columns.map((c) => [c.id, isNumber(c) ? '' : now[c.id]!])));
    setFrom({ kind: 'typed' });
  };
  return (
    <form
      className="no-print grid gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <div className="flex flex-wrap items-end gap-2">
        {kind.columns.map((column) => (
          <label key={column.id} className="block min-w-28 grow basis-28">
            <span className="muted mb-1 block text-xs">
              {column.title}
              {unitOf(column, unit) && `, ${unitOf(column, unit)}`}
              {column.optional && ' (optional)'}
            </span>
            {column.holds === 'choice' ? (
              <select
                className="select select-sm w-full"
                value={texts[column.id]}
                onChange={(e) => set(column.id, e.target.value)}
              >
                {column.choices!.map((c) => (
                  <option key={c} value={c}>
                    {CHOICE_WORDS[c] ?? c}
                  </option>
                ))}
              </select>
            ) : (
              <input
                className={`input input-sm w-full ${isNumber(column) ? 'num' : ''}`}
                type={column.holds === 'day' ? 'date' : 'text'}
                inputMode={isNumber(column) ? 'decimal' : 'text'}
                autoComplete="off"
                maxLength={80}
                value={texts[column.id]}
                onChange={(e) => {
                  if (column.holds === 'shown') setFrom({ kind: 'typed' });
                  set(column.id, e.target.value);
                }}
              />
            )}
          </label>
        ))}
        <button type="submit" className="btn btn-primary btn-sm" disabled={busy}>
          Add row
        </button>
      </div>
      {fault && (
        <p role="alert" className="text-sm text-error">
          {fault}
        </p>
      )}
      {reads && kind.trials && (
        <LiveTrial
          shown={shown.value}
          onEnded={(counted, seconds) => {
            set(reads.id, exact(counted));
            const minutes = kind.columns.find((c) => c.unit === 'min');
            if (minutes) set(minutes.id, String(Number((seconds / 60).toFixed(2))));
            setFrom({ kind: 'live' });
          }}
        />
      )}
      {reads && !kind.trials && (
        <p className="muted flex flex-wrap items-center gap-2 text-sm">
          {Number.isFinite(shown.value) ? (
            <>
              <span>
                Reading{' '}
                <span className="num">
                  {shown.decimals === null
                    ? printSignificant(shown.value, 4)
                    : printNumber(shown.value, shown.decimals)}{' '}
                  {UNITS[unit].symbol}
                </span>
                {refers && beside && (
                  <>
                    , {lowerFirst(beside.title)}{' '}
                    <span className="num">
                      {printSignificant(beside.value, 4)} {UNITS[unit].symbol}
                    </span>
                  </>
                )}
              </span>
              <button type="button" className="btn btn-sm" onClick={take}>
                {refers && beside ? 'Use both' : 'Use reading'}
              </button>
            </>
          ) : (
            'No live reading. Connect the gadget, or type in its reading.'
          )}
        </p>
      )}
      {reads &&
        resultOfRun?.((value, run) => {
          set(reads.id, exact(value));
          setFrom({ kind: 'run', recordingId: run.id });
        })}
    </form>
  );
}

/** All digits that mean something, without those of binary rounding. */
const exact = (value: number) => String(Number(value.toPrecision(9)));

export function unitOf(column: StudyColumn, unit: UnitId): string {
  if (column.unit) return column.unit;
  return column.holds === 'shown' || column.holds === 'reference' ? UNITS[unit].symbol : '';
}
