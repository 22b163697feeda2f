import { useState } from 'react';
import { alarmFault } from '@lucky-needle/core/alarm';
import { alarmUnit, cannotWatch } from '@lucky-needle/core/plan';
import type { AlarmKind, AlarmRule, Gadget } from '@lucky-needle/core/model';
import { UNITS } from '@lucky-needle/core/units';
import { Choice } from '../../parts/Choice.tsx';
import { NumberField } from '../../parts/NumberField.tsx';
import { useFaults } from '../../parts/useFaults.ts';
import { upperFirst } from '@lucky-needle/core/words';

interface Props {
  readonly gadget: Gadget;
  readonly rule: AlarmRule;
  readonly saving: boolean;
  onSave(rule: AlarmRule): void;
  onRemove(): void;
  onCancel(): void;
}

const KINDS: readonly (readonly [AlarmKind, string])[] = [
  ['high', 'Value is too high'],
  ['low', 'Value is too low'],
  ['outside', 'Value is outside a range'],
  ['sector', 'Direction is in a sector'],
  ['rise', 'Value rises too fast'],
  ['fall', 'Value falls too fast'],
  ['silent', 'No readings arrive'],
  ['fault', 'Sensor fault'],
];

const LAMPS: readonly (readonly [AlarmRule['lamp'], string])[] = [
  ['none', 'none'],
  ['amber', 'amber'],
  ['red', 'red'],
];
const SOUNDERS: readonly (readonly [AlarmRule['sounder'], string])[] = [
  ['none', 'none'],
  ['beeps', 'beeps'],
  ['steady', 'steady'],
];

/** One alarm: what it looks at, when it comes and goes, what it drives. Nothing is kept before it can work. */
export function AlarmEditor({ gadget, rule: before, saving, onSave, onRemove, onCancel }: Props) {
  const [rule, setRule] = useState(before);
  const { wrong, tellFault } = useFaults();
  const set = (part: Partial<AlarmRule>) => setRule({ ...rule, ...part });
  const channel = gadget.channels.find((c) => c.id === rule.channelId) ?? gadget.channels[0]!;
  const fault = alarmFault(rule) ?? cannotWatch(gadget, rule);
  const symbol = UNITS[rule.unit].symbol;
  const isLevelled =
    rule.kind === 'high' || rule.kind === 'low' || rule.kind === 'rise' || rule.kind === 'fall';
  const isRate = rule.kind === 'rise' || rule.kind === 'fall';
  const look = (channelId: string, figureId: string | null) => {
    const of = gadget.channels.find((c) => c.id === channelId)!;
    set({ channelId, figureId, unit: alarmUnit(gadget, of, figureId) ?? rule.unit });
  };
  const number = (key: 'caution' | 'limit' | 'from' | 'to', label: string, unit = symbol) => (
    <NumberField
      key={key}
      label={label}
      unit={unit}
      value={rule[key]}
      onChange={(v) => set({ [key]: v })}
      onEmpty={() => set({ [key]: null })}
      onFault={(f) => tellFault(label, f !== null)}
    />
  );
  // A page that was taken away meanwhile can still be left.
  const pages = Math.max(gadget.face?.pages?.length ?? 1, rule.page ?? 1);
  return (
    <form
      className="panel grid gap-3"
      aria-label={`Alarm ${before.name}`}
      onSubmit={(e) => {
        e.preventDefault();
        onSave(rule);
      }}
    >
      <label className="block">
        <span className="muted mb-1 block text-xs">Name</span>
        <input
          className="input input-sm w-full"
          autoFocus
          required
          maxLength={80}
          value={rule.name}
          onChange={(e) => set({ name: e.target.value })}
        />
      </label>
      <div className="grid grid-cols-2 gap-3">
        <Choice
          wide
          label="Triggers when"
          value={rule.kind}
          onChange={(kind) => set({ kind })}
          options={KINDS}
        />
        <label className="block">
          <span className="muted mb-1 block text-xs">Watches</span>
          <select
            className="select select-sm w-full"
            value={`${rule.channelId}/${rule.figureId ?? ''}`}
            onChange={(e) => {
              const [channelId, figureId] = e.target.value.split('/') as [string, string];
              look(channelId, figureId || null);
            }}
          >
            {gadget.channels.map((c) => (
              <optgroup key={c.id} label={c.name}>
                <option value={`${c.id}/`}>Readings</option>
                {(rule.kind === 'fault' ? [] : (c.figures ?? [])).map((f) => (
                  <option key={f.id} value={`${c.id}/${f.id}`}>
                    {f.name}
                  </option>
                ))}
              </optgroup>
            ))}
          </select>
        </label>
        {isLevelled && number('caution', 'Caution at')}
        {isLevelled && number('limit', 'Limit at')}
        {(rule.kind === 'outside' || rule.kind === 'sector') && number('from', 'From')}
        {(rule.kind === 'outside' || rule.kind === 'sector') && number('to', 'To')}
        {(rule.kind === 'high' || rule.kind === 'low') && number('from', 'Active only above')}
        {(rule.kind === 'high' || rule.kind === 'low') && number('to', 'Active only below')}
        {(isRate || rule.kind === 'silent' || rule.kind === 'fault') && (
          <NumberField
            label={
              isRate
                ? 'Time window'
                : rule.kind === 'silent'
                  ? 'No readings for'
                  : 'Reading stuck for (0 = off)'
            }
            unit="s"
            value={rule.windowS}
            onChange={(windowS) => set({ windowS })}
            check={(v) => (v >= 0 && v <= 86_400 ? null : 'Enter 0 to 86,400 s.')}
            onFault={(f) => tellFault('Seconds', f !== null)}
          />
        )}
        {rule.kind !== 'silent' && rule.kind !== 'fault' && (
          <NumberField
            label="Hysteresis"
            unit={symbol}
            value={rule.hysteresis}
            onChange={(hysteresis) => set({ hysteresis })}
            check={(v) => (v >= 0 ? null : 'Enter 0 or more.')}
            onFault={(f) => tellFault('Hysteresis', f !== null)}
          />
        )}
        <NumberField
          label="Minimum on time"
          unit="s"
          value={rule.minimumOnS}
          onChange={(minimumOnS) => set({ minimumOnS })}
          check={(v) => (v >= 0 && v <= 3600 ? null : 'Enter 0 to 3600 s.')}
          onFault={(f) => tellFault('Minimum on time', f !== null)}
        />
        {(['n', 'm'] as const).map((key) => (
          <NumberField
            key={key}
            label={key === 'n' ? 'Readings required' : 'Out of the latest'}
            value={rule[key]}
            onChange={(v) => set({ [key]: v })}
            check={(v) =>
              Number.isInteger(v) && v >= 1 && v <= 100 ? null : 'Enter a whole number from 1 to 100.'
            }
            onFault={(f) => tellFault(key, f !== null)}
          />
        ))}
        <Choice wide label="Lamp" value={rule.lamp} onChange={(lamp) => set({ lamp })} options={LAMPS} />
        <Choice
          wide
          label="Sounder"
          value={rule.sounder}
          onChange={(sounder) => set({ sounder })}
          options={SOUNDERS}
        />
        {pages > 1 && (
          <Choice
            wide
            label="Display page to show"
            value={String(rule.page ?? '')}
            onChange={(page) => set({ page: page === '' ? null : Number(page) })}
            options={[
              ['', 'no change'],
              ...Array.from({ length: pages }, (_, k) => [String(k + 1), `page ${k + 1}`] as const),
            ]}
          />
        )}
      </div>
      <label className="flex items-center gap-2 text-sm">
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          checked={rule.latch}
          onChange={(e) => set({ latch: e.target.checked })}
        />
        Stays on until acknowledged
      </label>
      <label className="block">
        <span className="muted mb-1 block text-xs">Reason for this level</span>
        <textarea
          className="textarea textarea-sm w-full"
          rows={2}
          maxLength={300}
          value={rule.why}
          onChange={(e) => set({ why: e.target.value })}
        />
      </label>
      {fault && (
        <p role="alert" className="text-sm text-error">
          {upperFirst(fault)}
        </p>
      )}
      <p className="muted text-xs">
        {channel.name}, in {UNITS[rule.unit].name}.
      </p>
      <div className="flex flex-wrap gap-2">
        <button
          className="btn btn-primary btn-sm"
          disabled={saving || fault !== null || wrong.length > 0 || rule.name.trim() === ''}
        >
          Save alarm
        </button>
        <button type="button" className="btn btn-ghost btn-sm" onClick={onCancel}>
          Cancel
        </button>
        <button type="button" className="btn btn-ghost btn-sm" onClick={onRemove}>
          Delete alarm
        </button>
      </div>
    </form>
  );
}
