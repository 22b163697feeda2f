import type { Channel, Gadget } from '../model/gadget.ts';
import type { FigureSpec } from '../model/watch.ts';
import type { TrialRule } from '../model/trial.ts';

/**
 * How a gadget's runs are cut until its maker says otherwise: by the two watches of a time between them, by each event whose
 * size is shown, and else a run is one trial.
 * @returns null for a gadget that makes no figures
 */
export function firstRule(gadget: Pick<Gadget, 'channels'>): TrialRule | null {
  const channel =
    gadget.channels.find((c) => ruleOf(c) && ruleOf(c)!.how !== 'run') ??
    gadget.channels.find((c) => ruleOf(c) !== null);
  return channel ? ruleOf(channel) : null;
}

/** Kinds of figures that are made of one event after the other. */
const OF_ONE_EVENT = ['event-size', 'event-length', 'segment', 'time-to-level', 'time-to-distance'];
/** Kinds of which less is better. */
const LESS = [
  'time-between',
  'time-to-level',
  'time-to-distance',
  'time-to-target',
  'scatter',
  'wander',
  'spread',
];

function ruleOf(channel: Channel): TrialRule | null {
  const figures = channel.figures ?? [];
  const watches = channel.watches ?? [];
  const main = figures.find((f) => f.id === channel.shows) ?? figures[0];
  if (!main) return null;
  const has = (id: string | undefined): id is string => watches.some((w) => w.id === id);
  const rankedBy = ({ id, kind }: FigureSpec) => ({
    channelId: channel.id,
    figureId: id,
    more: !LESS.includes(kind),
  });
  const { from, to } = main.watches;
  if (has(from) && has(to) && from !== to)
    return { ...rankedBy(main), how: 'between', watchId: from, endWatchId: to };
  const made = [main, ...figures].find(
    (f) => OF_ONE_EVENT.includes(f.kind) && has(Object.values(f.watches)[0]),
  );
  if (made)
    return { ...rankedBy(made), how: 'event', watchId: Object.values(made.watches)[0]!, endWatchId: null };
  return { ...rankedBy(main), how: 'run', watchId: null, endWatchId: null };
}
