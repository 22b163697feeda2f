import type { Gadget } from '../model/gadget.ts';
import type { TrialRule } from '../model/trial.ts';

/** Why a rule cannot cut a gadget's runs, with the way out; null when it can. */
export function ruleFault(rule: TrialRule, gadget: Pick<Gadget, 'channels'>): string | null {
  const channel = gadget.channels.find((c) => c.id === rule.channelId);
  if (!channel) return 'The channel that defines the trials was removed. Choose another.';
  if (!channel.figures?.length)
    return `${channel.name} has no result. Add one on the Line page, so that each trial has a result.`;
  const has = (id: string | null) => channel.watches?.some((w) => w.id === id) ?? false;
  if (rule.how === 'event' && !has(rule.watchId))
    return `The event that defines a trial on ${channel.name} was removed. Choose another.`;
  if (rule.how === 'between' && !(has(rule.watchId) && has(rule.endWatchId)))
    return `The start or end event of a trial on ${channel.name} was removed. Choose both again.`;
  if (rule.how === 'between' && rule.watchId === rule.endWatchId)
    return 'Start event and end event are the same. Choose another end event, or “each event”.';
  return null;
}
