import type { Gadget } from '../model/gadget.ts';
import type { TrialRule } from '../model/trial.ts';

/** Why a rule cannot cut a gadget's runs, with the way out; null when it can. */
export function ruleFault(rule: TrialRule, gadget: Pick<Gadget, 'channels'>): string | null {
  const channel = gadget.channels.find((c) => c.id === rule.channelId);
  if (!channel) return 'The channel that trials were cut by is gone. Choose another.';
  if (!channel.figures?.length)
    return `Nothing is made of ${channel.name}: give it a figure on the Line page, so that a trial has a result.`;
  const has = (id: string | null) => channel.watches?.some((w) => w.id === id) ?? false;
  if (rule.how === 'event' && !has(rule.watchId))
    return `What counted on ${channel.name} is gone. Choose what each trial is made of.`;
  if (rule.how === 'between' && !(has(rule.watchId) && has(rule.endWatchId)))
    return `What began or ended a trial on ${channel.name} is gone. Choose both.`;
  if (rule.how === 'between' && rule.watchId === rule.endWatchId)
    return 'A trial that begins and ends by the same events is cut by each event. Choose that, or another end.';
  return null;
}
