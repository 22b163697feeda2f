import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical } from 'lucide-react';
import { idsIn, REASONS, stageKind, type StageFaults } from '@lucky-needle/core/line';
import type { Calibration, StageSpec } from '@lucky-needle/core/model';
import { ParamFields, rulesOf, symbolOf, wordFor } from '../../parts/ParamFields.tsx';
import { numbersWith, uncertaintyWith } from '../../parts/numbersWith.ts';
import { StageTolerances } from './StageTolerances.tsx';
import { lowerFirst } from '@lucky-needle/core/words';

interface Props {
  readonly stage: StageSpec;
  readonly open: boolean;
  readonly fault: string | null;
  /** Bad samples that arise here, of those that are looked at. */
  readonly bad: StageFaults | null;
  /** The calibration that sets constants of this stage, if one does. */
  readonly calibration: Calibration | null;
  /** What makes constants of the line be off, as far as anybody said. */
  readonly causes: readonly string[];
  /** The gadget's other channels, for a stage that takes what they read. */
  readonly others: readonly { readonly id: string; readonly name: string }[];
  readonly first: boolean;
  readonly last: boolean;
  onOpen(): void;
  onChange(stage: StageSpec): void;
  onRemove(): void;
  onDuplicate(): void;
  onMove(by: number): void;
}

/** One stage: a line of its constants when closed, its fields when open. */
export function StageCard(props: Props) {
  const { stage, open, fault, calibration, onChange } = props;
  const kind = stageKind(stage.kind);
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition } = useSortable({
    id: stage.id,
  });
  if (!kind)
    return (
      <li className="panel flex items-center justify-between gap-2 text-sm">
        <span className="text-error">Unknown stage "{stage.kind}"</span>
        <button type="button" className="btn btn-ghost btn-xs" onClick={props.onRemove}>
          Remove
        </button>
      </li>
    );
  const rules = rulesOf(kind.params);
  const set = (name: string, value: StageSpec['params'][string]) => {
    const isChannels = rules.some(([of, rule]) => of === name && rule.mostChannels !== undefined);
    if (!isChannels) return onChange({ ...stage, params: { ...stage.params, [name]: value } });
    // A number for each channel goes with it, and what that is good to.
    const [before, after] = [idsIn(String(stage.params[name] ?? '')), idsIn(String(value))];
    onChange({
      ...stage,
      params: { ...numbersWith(stage.params, before, after), [name]: value },
      uncertainty: uncertaintyWith(stage.uncertainty, before, after),
    });
  };
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
          title="Drag, or press Space and use the arrow keys"
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
                    `${rule.title ?? name}: ${rule.mostChannels === undefined ? printParam(stage.params[name]) : namesOf(stage.params[name], props.others)}${rule.unit ? ` ${symbolOf(rule.unit)}` : ''}`,
                )
                .join('; ')}
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
          <span className="num font-semibold">{count.toLocaleString('en')}</span> readings have no value here:{' '}
          {REASONS[reason]}
        </p>
      ))}
      {open && (
        <div className="mt-3 grid gap-3 sm:grid-cols-2">
          <ParamFields schema={kind.params} values={stage.params} others={props.others} onChange={set} />
        </div>
      )}
      {open && kind.role !== 'filter' && (
        <StageTolerances stage={stage} rules={rules} causes={props.causes} onChange={onChange} />
      )}
      {calibration && (
        <p className="mt-2 border-l-2 border-secondary pl-2 text-xs text-secondary">
          ◆ Calibration {calibration.number} ({lowerFirst(calibration.result.title)}) is active here.
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
              ; the fields show the uncalibrated constants.
            </>
          )}
        </p>
      )}
    </li>
  );
}

const namesOf = (value: StageSpec['params'][string] | undefined, others: Props['others']) =>
  idsIn(String(value ?? ''))
    .map((id) => others.find((o) => o.id === id)?.name ?? id)
    .join(', ') || 'none yet';

function printParam(value: StageSpec['params'][string] | undefined): string {
  if (value === undefined) return 'default';
  if (Array.isArray(value)) return `${value.length} numbers`;
  return typeof value === 'number' ? String(Number(value.toPrecision(6))) : wordFor(String(value));
}
