import { useState } from 'react';
import type { Gadget, Link } from '@lucky-needle/core/model';
import { useBrokerQuery, usePatchLinkMutation } from '../../api/linkApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { Text } from './MakeLink.tsx';

/** Broker and topic of a link. */
export function TopicCard({ gadget, link }: { gadget: Gadget; link: Link }) {
  const settings = link.settings.kind === 'mqtt' ? link.settings : null;
  const own = useBrokerQuery(undefined, { skip: settings === null || settings.broker !== null });
  const [patch, patching] = usePatchLinkMutation();
  const [topic, setTopic] = useState(settings?.topic ?? '');
  if (!settings) return null;
  return (
    <section className="panel grid gap-3" aria-label="Topic">
      <h2 className="section-title">Topic</h2>
      <dl className="grid gap-1 text-sm">
        <dt className="muted text-xs">Broker{settings.broker === null && ', the bench’s own'}</dt>
        <dd className="num break-all">{settings.broker ?? own.data?.address ?? 'starting…'}</dd>
      </dl>
      <ProblemNote problem={problemOf(patching.error ?? own.error)} />
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
          Follow this topic
        </button>
      </form>
      <p className="muted text-xs">
        A message is a line, or several. “+” and “#” stand for any part of a topic.
      </p>
    </section>
  );
}
