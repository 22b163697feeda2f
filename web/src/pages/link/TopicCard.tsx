import { alarmTopic } from '@lucky-needle/core/formats';
import { useState } from 'react';
import type { Gadget, Link } from '@lucky-needle/core/model';
import { useBrokerQuery, usePatchLinkMutation, useRenewTokenMutation } from '../../api/linkApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { Text } from './MakeLink.tsx';

/** Broker and topic of a link. */
interface Props {
  readonly gadget: Gadget;
  readonly link: Link;
  /** Told once, when it is made. */
  readonly token: string | null;
  onToken(token: string | null): void;
}

export function TopicCard({ gadget, link, token, onToken }: Props) {
  const settings = link.settings.kind === 'mqtt' ? link.settings : null;
  const alarms = settings && alarmTopic(settings.topic);
  const own = useBrokerQuery(undefined, { skip: settings === null || settings.broker !== null });
  const [renew, renewing] = useRenewTokenMutation();
  const [patch, patching] = usePatchLinkMutation();
  const [topic, setTopic] = useState(settings?.topic ?? '');
  if (!settings) return null;
  return (
    <section className="panel grid gap-3" aria-label="MQTT topic">
      <h2 className="section-title">MQTT topic</h2>
      <dl className="grid gap-1 text-sm">
        <dt className="muted text-xs">Broker{settings.broker === null && ' (built-in)'}</dt>
        <dd className="num break-all">{settings.broker ?? own.data?.address ?? 'starting…'}</dd>
        {settings.broker === null && (
          <>
            <dt className="muted mt-1 text-xs">User</dt>
            <dd className="num break-all">{link.id}</dd>
            <dt className="muted mt-1 text-xs">Password</dt>
            <dd className="num break-all">{token ?? 'shown only once, when it was created'}</dd>
          </>
        )}
      </dl>
      {settings.broker === null && (
        <div className="grid gap-1">
          {token && (
            <p role="status" className="text-sm">
              This password is shown only once. Copy it into the gadget now.
            </p>
          )}
          <button
            type="button"
            className="btn btn-sm justify-self-start"
            disabled={renewing.isLoading}
            onClick={async () => onToken((await renew(gadget.id)).data?.token ?? null)}
          >
            Create a new password
          </button>
        </div>
      )}
      <ProblemNote problem={problemOf(patching.error ?? own.error ?? renewing.error)} />
      <form
        className="grid gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          void patch({ gadgetId: gadget.id, patch: { settings: { ...settings, topic: topic.trim() } } });
        }}
      >
        <Text label="Topic" value={topic} onChange={setTopic} placeholder="mill/kiln" />
        <button
          className="btn btn-sm justify-self-start"
          disabled={topic.trim() === '' || topic.trim() === settings.topic || patching.isLoading}
        >
          Subscribe
        </button>
      </form>
      <p className="muted text-xs">
        Each message holds one or more lines. “+” and “#” are wildcards.
        {alarms !== null && (
          <>
            {' '}
            Alarm states are published to <code className="num">{alarms}</code> when an alarm starts,
            escalates or clears.
          </>
        )}
      </p>
    </section>
  );
}
