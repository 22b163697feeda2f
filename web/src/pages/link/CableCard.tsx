import { useState, useSyncExternalStore } from 'react';
import type { Gadget, Link } from '@lucky-needle/core/model';
import { usePatchLinkMutation } from '../../api/linkApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { serialCable, serialOf } from '../../live/serialCable.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { CABLE_WORDS } from '@lucky-needle/core/words';

const BAUDS = [9600, 19_200, 38_400, 57_600, 115_200, 230_400, 460_800, 921_600];

/** The port of a board on a cable: chosen, opened, and taken up again by itself. */
export function CableCard({ gadget, link }: { gadget: Gadget; link: Link }) {
  const settings = link.settings.kind === 'serial' ? link.settings : null;
  const cable = useSyncExternalStore(serialCable.subscribe, serialCable.current);
  const [patch, patching] = usePatchLinkMutation();
  const [opening, setOpening] = useState(false);
  if (!settings) return null;
  const mine = cable.gadgetId === gadget.id && cable.state !== 'out';
  const bauds = [...new Set([...BAUDS, settings.baud])].toSorted((a, b) => a - b);
  return (
    <section className="panel grid gap-3" aria-label="Serial cable">
      <header className="flex flex-wrap items-baseline gap-3">
        <h2 className="section-title grow">Serial cable</h2>
        <span
          role="status"
          className={`text-sm ${mine && cable.state === 'reading' ? 'text-success' : 'muted'}`}
        >
          {mine && cable.state === 'reading' && '● '}
          {CABLE_WORDS[mine ? cable.state : 'out']}
        </span>
      </header>
      {serialOf() === null ? (
        <p role="alert" className="text-sm text-warning">
          This page cannot read a serial port here. The link is waiting: open Lucky Needle in a browser that
          can, on the computer that the cable is plugged into.
        </p>
      ) : (
        <p className="muted text-sm">
          The browser will ask which port to use. Keep a Lucky Needle page open: the page itself reads the
          port.
        </p>
      )}
      {mine && cable.problem && (
        <p role="alert" className="text-sm text-warning">
          {cable.problem}
        </p>
      )}
      <ProblemNote problem={problemOf(patching.error)} />
      <label className="grid max-w-52 gap-1">
        <span className="muted text-xs">Baud rate</span>
        <select
          className="select select-sm w-full"
          value={settings.baud}
          disabled={mine}
          onChange={(e) =>
            void patch({
              gadgetId: gadget.id,
              patch: { settings: { kind: 'serial', baud: Number(e.target.value) } },
            })
          }
        >
          {bauds.map((b) => (
            <option key={b}>{b}</option>
          ))}
        </select>
      </label>
      {mine ? (
        <button
          type="button"
          className="btn btn-sm justify-self-start"
          onClick={() => void serialCable.disconnect()}
        >
          Disconnect
        </button>
      ) : (
        <button
          type="button"
          className="btn btn-primary btn-sm justify-self-start"
          disabled={serialOf() === null || opening}
          onClick={async () => {
            setOpening(true);
            await serialCable.connect(gadget.id, settings.baud);
            setOpening(false);
          }}
        >
          Choose port
        </button>
      )}
    </section>
  );
}
