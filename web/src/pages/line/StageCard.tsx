import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical } from 'lucide-react';
import type { TSchema } from 'typebox';
import { REASONS, stageKind, type StageFaults } from '@lucky-needle/core/line';
import type { Calibration, StageSpec } from '@lucky-needle/core/model';
import { printSignificant, UNITS, type UnitId } from '@lucky-needle/core/units';
import { ListField } from '../../parts/ListField.tsx';
import { NumberField } from '../../parts/NumberField.tsx';

interface Props {
  readonly stage: StageSpec;
  readonly open: boolean;
  readonly fault: string | null;
  /** Bad samples that arise here, of those that are looked at. */
  readonly bad: StageFaults | null;
  /** The calibration that sets constants of this stage, if one does. */
  readonly calibration: Calibration | null;
  readonly first: boolean;
  readonly last: boolean;
  onOpen(): void;
  onChange(stage: StageSpec): void;
  onRemove(): void;
  onDuplicate(): void;
  onMove(by: number): void;
}

type Rule = TSchema & {
  type?: string;
  title?: string;
  unit?: string;
  enum?: string[];
  minimum?: number;
  maximum?: number;
  exclusiveMinimum?: number;
  minItems?: number;
  maxItems?: number;
};

/** One stage: a line of its constants when closed, its fields when open. */
export function StageCard(props: Props) {
  const { stage, open, fault, calibration, onChange } = props;
  const kind = stageKind(stage.kind);
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition } = useSortable({
    id: stage.id,
  });
  if (!kind) return <li className="panel text-sm text-error">Unknown stage "{stage.kind}".</li>;
  const rules = Object.entries(kind.params.properties as Record<string, Rule>);
  const set = (name: string, value: StageSpec['params'][string]) =>
    onChange({ ...stage, params: { ...stage.params, [name]: value } });
  return (
    <li
      id={stage.id}
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`panel p-3 ${fault ? 'border-error' : open ? 'border-primary' : ''} ${stage.off ? 'opacity-70' : ''}`}
    >
      <div className="flex items-center gap-2">
        <button
          type="button"
          ref={setActivatorNodeRef}
          className="muted -ml-1 cursor-grab touch-none rounded-field"
          {...attributes}
          {...listeners}
          aria-label={`Drag ${kind.title}`}
          title="Drag, or press Space and the arrows"
        >
          <GripVertical className="size-4" aria-hidden />
        </button>
        <button
          type="button"
          className="min-w-0 grow rounded-field text-left"
          aria-expanded={open}
          onClick={props.onOpen}
        >
          <span className="text-sm font-semibold">{kind.title}</span>
          {stage.off && <span className="muted text-xs"> off</span>}
          {!open && (
            <span className="num muted block truncate text-xs">
              {rules
                .map(
                  ([name, rule]) =>
                    `${rule.title ?? name} ${printParam(stage.params[name])}${rule.unit ? ` ${symbolOf(rule.unit)}` : ''}`,
                )
                .join(', ')}
            </span>
          )}
        </button>
        {open && (
          <div className="flex flex-wrap justify-end">
            <button
              type="button"
              className="btn btn-ghost btn-xs px-1.5"
              aria-label={`Move ${kind.title} up`}
              disabled={props.first}
              onClick={() => props.onMove(-1)}
            >
              ↑
            </button>
            <button
              type="button"
              className="btn btn-ghost btn-xs px-1.5"
              aria-label={`Move ${kind.title} down`}
              disabled={props.last}
              onClick={() => props.onMove(1)}
            >
              ↓
            </button>
            <button
              type="button"
              className="btn btn-ghost btn-xs"
              onClick={() => onChange({ ...stage, off: !stage.off })}
            >
              {stage.off ? 'Switch on' : 'Switch off'}
            </button>
            <button type="button" className="btn btn-ghost btn-xs" onClick={props.onDuplicate}>
              Duplicate
            </button>
            <button type="button" className="btn btn-ghost btn-xs" onClick={props.onRemove}>
              Remove
            </button>
          </div>
        )}
      </div>
      {fault && (
        <p role="alert" className="mt-1 text-sm text-error">
          {fault}
        </p>
      )}
      {props.bad?.arising.map(({ reason, count }) => (
        <p key={reason} className="mt-1 text-xs text-warning">
          <span className="num font-semibold">{count.toLocaleString('en')}</span> give no number here:{' '}
          {REASONS[reason]}
        </p>
      ))}
      {open && (
        <div className="mt-3 grid gap-3 sm:grid-cols-2">
          {rules.map(([name, rule]) =>
            rule.enum ? (
              <label key={name} className="block">
                <span className="muted mb-1 block text-xs">{rule.title ?? name}</span>
                <select
                  className="select select-sm w-full"
                  value={String(stage.params[name] ?? rule.enum[0])}
                  onChange={(e) => set(name, e.target.value)}
                >
                  {rule.enum.map((v) => (
                    <option key={v} value={v}>
                      {wordFor(v)}
                    </option>
                  ))}
                </select>
              </label>
            ) : rule.type === 'array' ? (
              <ListField
                key={name}
                label={rule.title ?? name}
                value={(stage.params[name] as number[] | undefined) ?? []}
                least={rule.minItems ?? 0}
                most={rule.maxItems ?? Infinity}
                onChange={(v) => set(name, v)}
              />
            ) : rule.type === 'string' ? (
              <label key={name} className="block sm:col-span-2">
                <span className="muted mb-1 block text-xs">{rule.title ?? name}</span>
                <input
                  className="input input-sm num w-full"
                  autoComplete="off"
                  spellCheck={false}
                  value={String(stage.params[name] ?? '')}
                  onChange={(e) => set(name, e.target.value)}
                />
              </label>
            ) : (
              <NumberField
                key={name}
                label={rule.title ?? name}
                unit={rule.unit && symbolOf(rule.unit)}
                value={stage.params[name] === undefined ? null : Number(stage.params[name])}
                check={(v) => outside(v, rule)}
                onChange={(v) => set(name, v)}
                {...(stage.uncertainty[name]
                  ? {
                      hint: `as bought ±${printSignificant(stage.uncertainty[name] * Math.sqrt(3), 2)} ${symbolOf(rule.unit ?? '')}`,
                    }
                  : {})}
              />
            ),
          )}
        </div>
      )}
      {calibration && (
        <p className="mt-2 border-l-2 border-secondary pl-2 text-xs text-secondary">
          ◆ Calibration {calibration.number} ({calibration.result.title.toLowerCase()}) is in use here.
          {open && (
            <>
              {' '}
              It sets{' '}
              <span className="num">
                {calibration.result.parameters
                  .filter((p) => p.stageId === stage.id)
                  .map((p) => `${p.title} ${p.value.toPrecision(5)}`)
                  .join(', ')}
              </span>
              ; the fields hold the constants as bought.
            </>
          )}
        </p>
      )}
    </li>
  );
}

/** Units in schemas are ids of the table where they can be. */
function symbolOf(unit: string): string {
  return unit in UNITS ? UNITS[unit as UnitId].symbol : unit;
}

const WORDS: Record<string, string> = {
  ratio: 'Fraction of the reference',
  volt: 'Volts',
  top: 'The supply',
  bottom: 'Ground',
};

/** Choices of a unit are ids of the table; others have words of their own where the code's would not do. */
function wordFor(value: string): string {
  if (WORDS[value]) return WORDS[value];
  return value in UNITS ? UNITS[value as UnitId].symbol || UNITS[value as UnitId].name : value;
}

function printParam(value: StageSpec['params'][string] | undefined): string {
  if (value === undefined) return 'as usual';
  if (Array.isArray(value)) return `${value.length} numbers`;
  return typeof value === 'number' ? String(Number(value.toPrecision(6))) : wordFor(String(value));
}

function outside(value: number, rule: Rule): string | null {
  if (rule.type === 'integer' && !Number.isInteger(value)) return 'A whole number is needed.';
  if (rule.exclusiveMinimum !== undefined && value <= rule.exclusiveMinimum)
    return `It must be above ${rule.exclusiveMinimum}.`;
  if (rule.minimum !== undefined && value < rule.minimum) return `It must be ${rule.minimum} or more.`;
  if (rule.maximum !== undefined && value > rule.maximum) return `It must be ${rule.maximum} or less.`;
  return null;
}
