import { useState } from 'react';
import {
  LINE_FORMATS,
  TIME_UNITS,
  type Gadget,
  type LineMapping,
  type Link,
  type LinkLines,
} from '@lucky-needle/core/model';
import { rawColumns } from '@lucky-needle/core/plan';
import { useLinkLinesQuery, usePatchLinkMutation } from '../../api/linkApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { useAppDispatch } from '../../app/store.ts';
import { toastShown } from '../../app/toasts.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';

const LOOK_MS = 1000;
const FORMATS: Readonly<Record<(typeof LINE_FORMATS)[number], string>> = {
  separated: 'numbers',
  pairs: 'name–value pairs',
  json: 'JSON',
  sentences: 'NMEA sentences (position)',
};
const UNITS: Readonly<Record<(typeof TIME_UNITS)[number], string>> = {
  s: 'seconds',
  ms: 'milliseconds',
  us: 'microseconds',
  date: 'dates',
};

/** The newest lines as they came, and where in them each raw column stands. */
export function LinesCard({ gadget, link }: { gadget: Gadget; link: Link }) {
  const { data } = useLinkLinesQuery(gadget.id, { pollingInterval: LOOK_MS });
  const [draft, setDraft] = useState<LineMapping | null>(null);
  const [patch, patching] = usePatchLinkMutation();
  const dispatch = useAppDispatch();
  const simulated = link.kind === 'simulated';
  const columns = rawColumns(gadget);
  const mapping = draft ?? data?.used ?? data?.suggested ?? null;
  const save = async (next: LineMapping | null, said: string) => {
    const done = await patch({ gadgetId: gadget.id, patch: { mapping: next } });
    if (done.error) return;
    setDraft(null);
    dispatch(toastShown({ text: said, tone: 'done' }));
  };
  if (link.kind === 'push') return null;
  return (
    <section className="panel grid gap-3" aria-label="Incoming lines">
      <header className="flex flex-wrap items-baseline gap-3">
        <h2 className="section-title grow">Incoming lines</h2>
        {data && !simulated && data.lines.length > 0 && (
          <span role="status" className={`text-sm ${data.unread > 0 ? 'text-warning' : 'muted'}`}>
            {data.used === null
              ? 'format not recognised yet'
              : `${data.read} of the last ${data.read + data.unread} lines readable`}
          </span>
        )}
      </header>
      {!data || data.lines.length === 0 ? (
        <p className="muted text-sm">Nothing received yet. Lines appear here as they arrive.</p>
      ) : (
        <pre className="num overflow-x-auto rounded-box border border-base-300 bg-base-200 p-3 text-xs leading-relaxed">
          {data.lines.slice(-8).join('\n')}
        </pre>
      )}
      {simulated && (
        <p className="muted text-sm">
          Time in milliseconds, then one count per column: simulated gadgets always use this format.
        </p>
      )}
      <ProblemNote problem={problemOf(patching.error)} />
      {!simulated && data && mapping && data.lines.length > 0 && (
        <MappingForm
          mapping={mapping}
          columns={columns}
          fields={data.fields}
          onChange={setDraft}
          changed={draft !== null}
          guessed={link.mapping === null}
          busy={patching.isLoading}
          onSave={() => void save(mapping, 'Line format saved.')}
          onGuess={() => void save(null, 'The line format is detected automatically.')}
          onDiscard={() => setDraft(null)}
        />
      )}
    </section>
  );
}

interface FormProps {
  readonly mapping: LineMapping;
  readonly columns: readonly string[];
  readonly fields: LinkLines['fields'];
  readonly changed: boolean;
  readonly guessed: boolean;
  readonly busy: boolean;
  onChange(mapping: LineMapping): void;
  onSave(): void;
  onGuess(): void;
  onDiscard(): void;
}

function MappingForm(props: FormProps) {
  const { mapping, columns, fields, changed, guessed, busy, onChange, onSave, onGuess, onDiscard } = props;
  const fieldOf = (column: string) => mapping.columns.find((c) => c.column === column)?.field ?? '';
  const setColumn = (column: string, field: string) => {
    const others = mapping.columns.filter((c) => c.column !== column);
    onChange({ ...mapping, columns: field === '' ? others : [...others, { column, field }] });
  };
  const options = (current: string) => (
    <>
      {current !== '' && !fields.some((f) => f.field === current) && (
        <option value={current}>{current}</option>
      )}
      {fields.map((f) => (
        <option key={f.field} value={f.field}>
          {f.title === f.field ? f.field : `${f.field}: ${f.title}`} ({f.sample.slice(0, 16)})
        </option>
      ))}
    </>
  );
  return (
    <div className="grid gap-3">
      <p className="text-sm">
        {guessed && !changed ? 'Detected automatically: ' : 'Read as '}
        <strong>{FORMATS[mapping.format]}</strong>
        {mapping.format === 'separated' && `, separated by ${SEPARATORS[mapping.delimiter]}`}
        {mapping.decimal === ',' && ', decimal comma'}.
      </p>
      <div className="grid gap-2 sm:grid-cols-2 lg:grid-cols-3">
        {columns.map((column) => (
          <label key={column} className="grid gap-1">
            <span className="muted text-xs">
              Raw <span className="num">{column}</span>
            </span>
            <select
              className={`select select-sm w-full ${fieldOf(column) === '' ? 'select-warning' : ''}`}
              value={fieldOf(column)}
              onChange={(e) => setColumn(column, e.target.value)}
            >
              <option value="">not sent</option>
              {options(fieldOf(column))}
            </select>
          </label>
        ))}
        <label className="grid gap-1">
          <span className="muted text-xs">Time</span>
          <select
            className="select select-sm w-full"
            value={mapping.time?.field ?? ''}
            onChange={(e) =>
              onChange({
                ...mapping,
                time:
                  e.target.value === '' ? null : { field: e.target.value, unit: mapping.time?.unit ?? 'ms' },
              })
            }
          >
            <option value="">time of arrival</option>
            {options(mapping.time?.field ?? '')}
          </select>
        </label>
        {mapping.time && (
          <label className="grid gap-1">
            <span className="muted text-xs">Time unit</span>
            <select
              className="select select-sm w-full"
              value={mapping.time.unit}
              onChange={(e) =>
                onChange({
                  ...mapping,
                  time: { ...mapping.time!, unit: e.target.value as (typeof TIME_UNITS)[number] },
                })
              }
            >
              {TIME_UNITS.map((u) => (
                <option key={u} value={u}>
                  {UNITS[u]}
                </option>
              ))}
            </select>
          </label>
        )}
        <label className="grid gap-1">
          <span className="muted text-xs">Sequence number</span>
          <select
            className="select select-sm w-full"
            value={mapping.sequence ?? ''}
            onChange={(e) => onChange({ ...mapping, sequence: e.target.value || null })}
          >
            <option value="">none</option>
            {options(mapping.sequence ?? '')}
          </select>
        </label>
      </div>
      <div className="flex flex-wrap gap-2">
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={busy || (!changed && !guessed) || mapping.columns.length === 0}
          onClick={onSave}
        >
          {changed ? 'Use this mapping' : 'Keep this mapping'}
        </button>
        {changed && (
          <button type="button" className="btn btn-ghost btn-sm" onClick={onDiscard}>
            Discard
          </button>
        )}
        {!guessed && !changed && (
          <button type="button" className="btn btn-ghost btn-sm" disabled={busy} onClick={onGuess}>
            Detect automatically
          </button>
        )}
      </div>
    </div>
  );
}

const SEPARATORS: Readonly<Record<LineMapping['delimiter'], string>> = {
  ',': 'commas',
  ';': 'semicolons',
  '\t': 'tabs',
  '|': 'bars',
  ' ': 'spaces',
};
