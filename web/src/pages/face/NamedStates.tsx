import { useState } from 'react';
import type { Channel, Gadget, NamedState } from '@lucky-needle/core/model';
import { needleUnit, proposedStates, stateInWords } from '@lucky-needle/core/plan';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { useSaveGadget } from '../../parts/useSaveGadget.ts';
import { NamedStateForm } from './NamedStateForm.tsx';

/** Words that stand on the display in the place of numbers: what there is of them, and those that could be. */
export function NamedStates({ gadget }: { gadget: Gadget }) {
  const { save, saving, problem } = useSaveGadget(gadget);
  const [isAdding, setAdding] = useState(false);
  const keep = (channelId: string, states: readonly NamedState[], text: string) =>
    save(
      { channels: gadget.channels.map((c) => (c.id === channelId ? { ...c, states: [...states] } : c)) },
      text,
    );
  const told = gadget.channels.filter((c) => (c.states ?? []).length > 0);
  const proposals = gadget.channels.flatMap((channel) =>
    (channel.states ?? []).length > 0
      ? []
      : proposedStates(gadget, channel).map((state) => ({ channel, state })),
  );
  return (
    <section className="panel grid gap-2" aria-label="Words">
      <h2>Words instead of numbers</h2>
      <p className="muted text-sm">
        Show a word, such as “empty”, for part of the range. Alarms, results and runs still use the number.
      </p>
      <ProblemNote problem={problem} />
      <ul className="grid gap-1 text-sm">
        {told.flatMap((channel) =>
          channel.states!.map((state, k) => (
            <li key={`${channel.id} ${k}`} className="flex flex-wrap items-baseline gap-x-2">
              <span className="muted">{channel.name}</span>
              <span className="num grow">{stateInWords(state)}</span>
              <button
                type="button"
                className="btn btn-ghost btn-xs"
                disabled={saving}
                aria-label={`Remove “${state.name}” from ${channel.name}`}
                onClick={() =>
                  void keep(
                    channel.id,
                    without(channel, k),
                    `“${state.name}” removed; the number is shown again.`,
                  )
                }
              >
                Remove
              </button>
            </li>
          )),
        )}
        {proposals.map(({ channel, state }) => (
          <li key={channel.id} className="flex flex-wrap items-baseline gap-x-2">
            <span className="muted">{channel.name}</span>
            <span className="num grow">{stateInWords(state)}?</span>
            <button
              type="button"
              className="btn btn-xs"
              disabled={saving}
              onClick={() => void keep(channel.id, [state], `“${state.name}” is now shown in its range.`)}
            >
              Use this word
            </button>
          </li>
        ))}
      </ul>
      {isAdding ? (
        <NamedStateForm
          gadget={gadget}
          saving={saving}
          onCancel={() => setAdding(false)}
          onKeep={async (channel, state) => {
            if (await keep(channel.id, [...(channel.states ?? []), state], `“${state.name}” saved.`))
              setAdding(false);
          }}
        />
      ) : (
        <button
          type="button"
          className="btn btn-sm justify-self-start"
          disabled={gadget.channels.every((c) => needleUnit(gadget, c) === null)}
          onClick={() => setAdding(true)}
        >
          Add a word
        </button>
      )}
    </section>
  );
}

const without = ({ states = [] }: Channel, at: number) => states.filter((_, k) => k !== at);
