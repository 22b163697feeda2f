import type { Gadget, Link } from '@lucky-needle/core/model';
import { rawColumns } from '@lucky-needle/core/plan';
import { useRenewTokenMutation } from '../../api/linkApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';

interface Props {
  readonly gadget: Gadget;
  readonly link: Link;
  readonly token: string | null;
  onToken(token: string | null): void;
}

/** Address, token and an example for a gadget that sends by itself. */
export function PushCard({ gadget, link, token, onToken }: Props) {
  const [renew, renewing] = useRenewTokenMutation();
  const columns = rawColumns(gadget);
  const address = `${location.origin}/api/push/${link.id}`;
  const values = columns.map((c) => `"${c}": 512`).join(', ');
  return (
    <section className="panel grid gap-3" aria-label="What the gadget must send">
      <h2 className="section-title">What the gadget must send</h2>
      <p className="muted text-sm">
        Send a POST request to this address. <span className="num">t</span> is the gadget’s time in seconds or
        a date; <span className="num">seq</span> increases by one with each reading. Both are optional. To
        send a batch: <span className="num">{'{"readings": […]}'}</span>, oldest first.
      </p>
      <pre
        className="num rounded-box border border-base-300 bg-base-200 p-3 text-xs break-all whitespace-pre-wrap"
        data-testid="push-example"
      >
        {`curl ${address} \\
  -H "Authorization: Bearer ${token ?? '…'}" \\
  -H "Content-Type: application/json" \\
  -d '{"t": 12.5, "seq": 125, "values": {${values}}}'`}
      </pre>
      {token ? (
        <p className="rounded-box border border-warning/60 bg-warning/8 p-3 text-sm" role="status">
          This token is shown only once. Copy it into the gadget now:{' '}
          <span className="num font-semibold break-all" data-testid="push-token">
            {token}
          </span>
        </p>
      ) : (
        <p className="muted text-sm">
          The token was shown once, when it was created. If you lost it, create a new one.
        </p>
      )}
      <ProblemNote problem={problemOf(renewing.error)} />
      <button
        type="button"
        className="btn btn-sm justify-self-start"
        disabled={renewing.isLoading}
        onClick={async () => onToken((await renew(gadget.id)).data?.token ?? null)}
      >
        Create a new token
      </button>
      <p className="muted text-xs">
        Other computers can reach the server only if it was started with HOST and a passphrase; the gadget
        then uses the token instead of the passphrase.
      </p>
    </section>
  );
}
