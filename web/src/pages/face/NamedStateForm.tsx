import { useState } from 'react';
import type { Channel, Gadget, NamedState } from '@lucky-needle/core/model';
import { needleUnit, statesFault } from '@lucky-needle/core/plan';
import { UNITS } from '@lucky-needle/core/units';
import { Choice } from '../../parts/Choice.tsx';
import { NumberField } from '../../parts/NumberField.tsx';
import { useFaults } from '../../parts/useFaults.ts';

interface Props {
  readonly gadget: Gadget;
  readonly saving: boolean;
  onKeep(channel: Channel, state: NamedState): void;
  onCancel(): void;
}

/** A word and the readings that it names. */
export function NamedStateForm({ gadget, saving, onKeep, onCancel }: Props) {
  const able = gadget.channels.filter((c) => needleUnit(gadget, c) !== null);
  const [channelId, setChannelId] = useState(able[0]!.id);
  const [state, setState] = useState<Omit<NamedState, 'unit'>>({ name: '', from: null, to: null });
  const { wrong, tellFault } = useFaults();
  const channel = able.find((c) => c.id === channelId) ?? able[0]!;
  const unit = needleUnit(gadget, channel)!;
  const { symbol } = UNITS[unit];
  const isOpen = (state.from === null) !== (state.to === null);
  const whole: NamedState = {
    ...state,
    name: state.name.trim(),
    unit,
    cutOff: isOpen && state.cutOff === true,
  };
  const fault = statesFault(gadget, { ...channel, states: [whole] });
  const isBegun = state.from !== null || state.to !== null;
  return (
    <form
      className="grid grid-cols-2 gap-3"
      aria-label="New word"
      onSubmit={(e) => {
        e.preventDefault();
        onKeep(channel, whole);
      }}
    >
      <Choice
        wide
        label="Channel"
        value={channel.id}
        onChange={setChannelId}
        options={able.map((c) => [c.id, c.name] as const)}
      />
      <label className="block">
        <span className="muted mb-1 block text-xs">Word to show</span>
        <input
          className="input input-sm w-full"
          autoFocus
          required
          maxLength={20}
          placeholder="e.g. empty"
          value={state.name}
          onChange={(e) => setState({ ...state, name: e.target.value })}
        />
      </label>
      {(['from', 'to'] as const).map((key) => (
        <NumberField
          key={key}
          label={key === 'from' ? 'From (blank: no lower limit)' : 'To (blank: no upper limit)'}
          unit={symbol}
          value={state[key]}
          onChange={(v) => setState({ ...state, [key]: v })}
          onEmpty={() => setState({ ...state, [key]: null })}
          onFault={(f) => tellFault(key, f !== null)}
        />
      ))}
      {isOpen && (
        <label className="col-span-2 flex items-center gap-2 text-sm">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={state.cutOff ?? false}
            onChange={(e) => setState({ ...state, cutOff: e.target.checked })}
          />
          Also when the ADC is at the end of its range, as with a shorted or open sensor
        </label>
      )}
      {fault && isBegun && (
        <p role="alert" className="col-span-2 text-sm text-error">
          {fault}
        </p>
      )}
      <div className="col-span-2 flex gap-2">
        <button
          type="submit"
          className="btn btn-primary btn-sm"
          disabled={saving || fault !== null || wrong.length > 0 || whole.name === ''}
        >
          Save word
        </button>
        <button type="button" className="btn btn-ghost btn-sm" onClick={onCancel}>
          Cancel
        </button>
      </div>
    </form>
  );
}
