import { compileLine } from '../line/index.ts';
import type { AlarmKind, AlarmRule } from '../model/alarm.ts';
import type { Channel, Gadget } from '../model/gadget.ts';
import { printNominal, UNITS, type UnitId } from '../units/index.ts';
import { LineError } from '../stage/contract.ts';
import { figureUnit } from './shown.ts';
import { wholeLine } from './wholeLine.ts';

/** The unit that an alarm of a channel is told in: of its readings, or of a figure; null where the line gives none. */
export function alarmUnit(gadget: Gadget, channel: Channel, figureId: string | null): UnitId | null {
  try {
    if (figureId !== null) {
      const figure = channel.figures?.find((f) => f.id === figureId);
      return figure ? figureUnit(gadget, channel, figure) : null;
    }
    const line = compileLine(wholeLine(gadget, channel, []), { sampleRateHz: gadget.sampleRateHz });
    return line.outputs[0]?.unit ?? null;
  } catch (error) {
    if (error instanceof LineError || error instanceof RangeError) return null;
    throw error;
  }
}

/** Why a rule cannot look at what it names; null when it can. */
export function cannotWatch(gadget: Gadget, rule: AlarmRule): string | null {
  const channel = gadget.channels.find((c) => c.id === rule.channelId);
  if (!channel)
    return `there is no channel "${rule.channelId}". Choose one of ${gadget.channels.map((c) => c.name).join(', ')}.`;
  if (rule.figureId !== null && !channel.figures?.some((f) => f.id === rule.figureId))
    return `${channel.name} has no result "${rule.figureId}". Choose another.`;
  if (rule.kind === 'silent' || rule.kind === 'fault') return null;
  const unit = alarmUnit(gadget, channel, rule.figureId);
  if (unit && UNITS[unit].dimension !== UNITS[rule.unit].dimension)
    return `${channel.name} is measured in ${UNITS[unit].name}, but the alarm is set in ${UNITS[rule.unit].name}. Use ${UNITS[unit].symbol}.`;
  return null;
}

const KINDS: Readonly<Record<AlarmKind, string>> = {
  high: 'above',
  low: 'below',
  outside: 'outside a range',
  sector: 'in a sector',
  rise: 'rises',
  fall: 'falls',
  silent: 'no readings',
  fault: 'sensor fault',
};

/** A rule in a line. */
export function alarmInWords(rule: AlarmRule): string {
  const { symbol } = UNITS[rule.unit];
  const at = (v: number) => `${printNominal(v, 4)} ${symbol}`.trim();
  const levels = [
    ...(rule.caution === null ? [] : [`caution ${at(rule.caution)}`]),
    ...(rule.limit === null ? [] : [`limit ${at(rule.limit)}`]),
  ].join(', ');
  switch (rule.kind) {
    case 'high':
    case 'low':
      return `${KINDS[rule.kind]}, ${levels}`;
    case 'rise':
    case 'fall':
      return `${KINDS[rule.kind]} within ${rule.windowS} s, ${levels}`;
    case 'outside':
      return `outside ${at(rule.from!)} to ${at(rule.to!)}`;
    case 'sector':
      return `in the sector from ${at(rule.from!)} to ${at(rule.to!)}`;
    case 'silent':
      return `no readings for ${rule.windowS} s`;
    case 'fault':
      return rule.windowS > 0
        ? `open, shorted, missing, or stuck for ${rule.windowS} s`
        : 'open, shorted or missing';
  }
}
