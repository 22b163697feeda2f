import { useEffect, useState } from 'react';
import type { Gadget } from '@lucky-needle/core/model';
import { problemOf } from '../../api/problemOf.ts';

/** In the place of a channel: what the gadget shows and sounds. */
const FACE = '*face*';

/** C headers for the gadget's own code: the conversion of a channel, or its alarms and the rows of its display. */
export function HeaderCard({ gadget }: { gadget: Gadget }) {
  const [channelId, setChannelId] = useState(gadget.channels[0]!.id);
  const [text, setText] = useState('');
  const [trouble, setTrouble] = useState<string | null>(null);
  const address =
    channelId === FACE
      ? `/api/gadgets/${gadget.id}/face/header`
      : `/api/gadgets/${gadget.id}/channels/${channelId}/header`;
  useEffect(() => {
    const abort = new AbortController();
    void (async () => {
      try {
        const response = await fetch(address, { signal: abort.signal });
        const body = await response.text();
        setTrouble(response.ok ? null : problemOf({ status: response.status, data: body })!.detail);
        setText(response.ok ? body : '');
      } catch (error) {
        if (!abort.signal.aborted) setTrouble((error as Error).message);
      }
    })();
    return () => abort.abort();
  }, [address, gadget.version]);
  return (
    <section className="panel grid min-w-0 gap-2">
      <div className="flex items-center justify-between gap-2">
        <h2 className="section-title">C header</h2>
        {text !== '' && (
          <a className="btn btn-primary btn-sm" href={address} download>
            Download
          </a>
        )}
      </div>
      <select
        className="select select-sm w-full"
        aria-label="Contents of the header"
        value={channelId}
        onChange={(e) => setChannelId(e.target.value)}
      >
        {gadget.channels.map((c) => (
          <option key={c.id} value={c.id}>
            {c.name}
          </option>
        ))}
        <option value={FACE}>Alarms and display</option>
      </select>
      {trouble ? (
        <p role="alert" className="text-sm text-error">
          {trouble}
        </p>
      ) : (
        <pre
          className="num max-h-[32rem] overflow-auto rounded-box bg-base-200 p-3 text-[0.7rem] leading-relaxed"
          tabIndex={0}
          aria-label="C header"
        >
          {text}
        </pre>
      )}
    </section>
  );
}
