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
    <section className="panel grid gap-3" aria-label="What the gadget sends">
      <h2 className="section-title">What the gadget sends</h2>
      <p className="muted text-sm">
        A POST to this address. <span className="num">t</span> is its own time in seconds or a date,{' '}
        <span className="num">seq</span> grows by one each time; both may be left out. Many at once:{' '}
        <span className="num">{'{"readings": […]}'}</span>, oldest first.
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
          The token is shown this once. Put it into the gadget now:{' '}
          <span className="num font-semibold break-all" data-testid="push-token">
            {token}
          </span>
        </p>
      ) : (
        <p className="muted text-sm">The token was shown once, when it was made. Lost? Make another.</p>
      )}
      <ProblemNote problem={problemOf(renewing.error)} />
      <button
        type="button"
        className="btn btn-sm justify-self-start"
        disabled={renewing.isLoading}
        onClick={async () => onToken((await renew(gadget.id)).data?.token ?? null)}
      >
        Make a new token
      </button>
      <p className="muted text-xs">
        From other machines the bench is reached only when it was started with HOST and a passphrase; the
        token then stands in for the passphrase.
      </p>
    </section>
  );
}
