import { useMemo, useState } from 'react';
import type { Channel, LineSpec } from '@lucky-needle/core/model';

/** What counts on a channel, what is made of it, and what is shown. */
export type Counts = Required<Pick<Channel, 'watches' | 'figures' | 'shows'>>;

export const countsOf = ({ watches = [], figures = [], shows = null }: Channel): Counts => ({
  watches,
  figures,
  shows,
});

/** Changes to what counts on a channel that are not saved yet; those of another channel are forgotten. */
export function useCountsDraft(gadgetId: string, stored: Channel, line: LineSpec) {
  const [draft, setDraft] = useState<{ readonly of: string; readonly counts: Counts } | null>(null);
  const key = `${gadgetId} ${stored.id}`;
  const tried = draft?.of === key ? draft.counts : null;
  const channel = useMemo<Channel>(() => ({ ...stored, ...tried, line }), [stored, tried, line]);
  return {
    /** As it is being tried, over the line as it is being changed. */
    channel,
    isDraft: JSON.stringify(countsOf(channel)) !== JSON.stringify(countsOf(stored)),
    change: (change: Partial<Counts>) => setDraft({ of: key, counts: { ...countsOf(channel), ...change } }),
    discard: () => setDraft(null),
  };
}
