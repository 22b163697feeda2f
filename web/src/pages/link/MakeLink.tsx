import { useState } from 'react';
import type { Gadget, LinkKind, LinkSettings } from '@lucky-needle/core/model';
import { TEMPLATES } from '@lucky-needle/core/plan';
import { useMakeLinkMutation } from '../../api/linkApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { serialOf } from '../../live/serialCable.ts';
import { NumberField } from '../../parts/NumberField.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';

interface Way {
  readonly kind: LinkKind;
  readonly title: string;
  readonly words: string;
}

const WAYS: readonly Way[] = [
  {
    kind: 'serial',
    title: 'Serial cable',
    words:
      'Choose this if the board is next to this computer and prints lines of text. A page of Lucky Needle must stay open: the browser reads the port.',
  },
  {
    kind: 'push',
    title: 'Gadget sends over HTTP',
    words:
      'Choose this if the gadget is on the network and you write its program. It sends one reading or a batch at a time, and what it stored while offline later.',
  },
  {
    kind: 'mqtt',
    title: 'MQTT topic',
    words: 'Choose this if the gadget already publishes to an MQTT broker, or should use the built-in one.',
  },
  {
    kind: 'file',
    title: 'Log file',
    words:
      'Choose this if another program on the server’s computer writes the readings to a file. New lines are read as they are added.',
  },
  {
    kind: 'simulated',
    title: 'Simulated gadget',
    words:
      'Choose this to practise: it sends raw counts like a real gadget, with hidden constants and faults.',
  },
];

/** The ways by which readings can come in, with what each needs to know. */
export function MakeLink({ gadget, onToken }: { gadget: Gadget; onToken(token: string | null): void }) {
  const [make, making] = useMakeLinkMutation();
  const simulated = TEMPLATES.some((t) => t.id === gadget.template && t.family !== null);
  const ways = WAYS.filter((w) => w.kind !== 'simulated' || simulated);
  const [kind, setKind] = useState<LinkKind>(simulated ? 'simulated' : 'serial');
  const [baud, setBaud] = useState(115_200);
  const [topic, setTopic] = useState(`mill/${gadget.name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}`);
  const [broker, setBroker] = useState('');
  const [path, setPath] = useState('');
  const settings: LinkSettings =
    kind === 'serial'
      ? { kind, baud }
      : kind === 'mqtt'
        ? { kind, topic: topic.trim(), broker: broker.trim() || null }
        : kind === 'file'
          ? { kind, path: path.trim() }
          : { kind };
  const complete =
    (kind !== 'mqtt' || topic.trim() !== '') &&
    (kind !== 'file' || path.trim() !== '') &&
    (kind !== 'serial' || serialOf() !== null);
  return (
    <form
      className="panel grid max-w-3xl gap-4"
      aria-label="Set up a link"
      onSubmit={async (e) => {
        e.preventDefault();
        const made = await make({ gadgetId: gadget.id, body: { settings, mapping: null } });
        if (made.data) onToken(made.data.token);
      }}
    >
      <h2 className="section-title">How do the readings arrive?</h2>
      <ProblemNote problem={problemOf(making.error)} />
      <div className="grid gap-2" role="radiogroup" aria-label="How the readings arrive">
        {ways.map((way) => (
          <label
            key={way.kind}
            className={`flex cursor-pointer gap-3 rounded-box border p-3 ${kind === way.kind ? 'border-primary bg-primary/6' : 'border-base-300'}`}
          >
            <input
              type="radio"
              name="kind"
              className="radio radio-sm radio-primary mt-0.5"
              checked={kind === way.kind}
              onChange={() => setKind(way.kind)}
            />
            <span>
              <span className="block font-semibold">{way.title}</span>
              <span className="muted text-sm">{way.words}</span>
            </span>
          </label>
        ))}
      </div>
      {kind === 'serial' && serialOf() === null && (
        <p role="alert" className="text-sm text-warning">
          This page cannot read a serial port here. Open Lucky Needle at its 127.0.0.1 address in a browser
          that supports Web Serial, or choose another kind of link.
        </p>
      )}
      {kind === 'serial' && (
        <NumberField
          className="max-w-52"
          label="Baud rate"
          unit="baud"
          value={baud}
          onChange={setBaud}
          check={(v) =>
            Number.isInteger(v) && v >= 300 && v <= 4e6 ? null : 'Enter a whole number from 300 to 4,000,000.'
          }
        />
      )}
      {kind === 'mqtt' && (
        <div className="grid gap-3 sm:grid-cols-2">
          <Text label="Topic" value={topic} onChange={setTopic} placeholder="mill/kiln" />
          <Text
            label="Broker (leave blank for the built-in one)"
            value={broker}
            onChange={setBroker}
            placeholder="mqtt://192.168.1.5:1883"
          />
        </div>
      )}
      {kind === 'file' && (
        <Text
          label="File path on the server’s computer"
          value={path}
          onChange={setPath}
          placeholder="/home/me/kiln.log"
        />
      )}
      <button className="btn btn-primary btn-sm justify-self-start" disabled={!complete || making.isLoading}>
        Set up link
      </button>
    </form>
  );
}

interface TextProps {
  readonly label: string;
  readonly value: string;
  readonly placeholder: string;
  onChange(value: string): void;
}

export function Text({ label, value, onChange, placeholder }: TextProps) {
  return (
    <label className="grid gap-1">
      <span className="muted text-xs">{label}</span>
      <input
        className="input input-sm num w-full"
        value={value}
        placeholder={placeholder}
        spellCheck={false}
        onChange={(e) => onChange(e.target.value)}
      />
    </label>
  );
}
