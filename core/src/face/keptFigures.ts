import type { FacePage } from '../model/face.ts';
import type { Channel } from '../model/gadget.ts';
import type { FigureSpec } from '../model/watch.ts';
import { faceWidget } from './widgets/registry.ts';

const NAMES = { lowest: 'Lowest', highest: 'Highest' } as const;

/** The figure that keeps an end of what a channel has read since the reset; null for none. */
export const heldFigure = ({ figures }: Channel, which: 'lowest' | 'highest'): FigureSpec | null =>
  figures?.find((f) => f.kind === 'extreme' && f.params['which'] === which) ?? null;

/** The figure of a channel that has a start, so that a stopwatch can run from it; null for none. */
export const raceFigure = ({ figures }: Channel): FigureSpec | null =>
  figures?.find((f) => 'from' in f.watches) ?? null;

/** The channels with the figures that widgets want kept, such as the highest since the reset; as they are where all are there. */
export function withKeptFigures(channels: readonly Channel[], pages: readonly FacePage[]): Channel[] {
  const widgets = pages.flatMap((p) => p.widgets);
  return channels.map((channel) => {
    const wanted = new Set(
      widgets.filter((w) => w.channelId === channel.id).flatMap((w) => faceWidget(w.kind)?.keeps ?? []),
    );
    const have = channel.figures ?? [];
    const missing = [...wanted].filter((which) => heldFigure(channel, which) === null);
    if (missing.length === 0) return channel;
    const added = missing.map((which): FigureSpec => {
      const ids = new Set(have.map((f) => f.id));
      return {
        id: ids.has(which) ? `${which}-held` : which,
        kind: 'extreme',
        name: NAMES[which],
        watches: {},
        others: [],
        params: { which },
        askId: null,
      };
    });
    return { ...channel, figures: [...have, ...added] };
  });
}
