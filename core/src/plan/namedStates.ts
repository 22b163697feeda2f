import type { CompiledLine } from '../line/index.ts';
import { beyondEnds } from '../line/beyondEnds.ts';
import type { Channel, Gadget } from '../model/gadget.ts';
import type { NamedState } from '../model/namedState.ts';
import { REASON } from '../stage/contract.ts';
import { convertUnit, printNominal, UNITS, type UnitId } from '../units/index.ts';
import { figureUnit, readingUnit, shownFigure } from './shown.ts';

/** What gives 0 once nothing has come for longer than its slowest allows. */
const ENDS_AT_ZERO = new Set(['beat-rate', 'period-rate']);

/** Ends of what a word names; an open one is infinite only where what a converter cut off belongs to it. */
export function endsOf({ from, to, cutOff = false }: NamedState): [from: number, to: number] {
  const most = cutOff ? Number.POSITIVE_INFINITY : Number.MAX_VALUE;
  return [from ?? -most, to ?? most];
}

/** The word for what a needle shows; null where none names it. @param value in `unit`; infinite beyond an end of the converter */
export function namedState(states: Channel['states'], value: number, unit: UnitId): string | null {
  const named = (states ?? []).find((s) => {
    if (UNITS[s.unit].dimension !== UNITS[unit].dimension) return false;
    const x = convertUnit(value, unit, s.unit);
    const [from, to] = endsOf(s);
    return x >= from && x <= to;
  });
  return named?.name ?? null;
}

/** The same for a reading as it left its line: what a converter cut off has a word, too. @param value in the line's unit */
export function stateOfReading(
  states: Channel['states'],
  line: CompiledLine,
  value: number,
  reason: number,
): string | null {
  const at = reason === REASON.ok ? value : beyondEnds(line, reason);
  return namedState(states, at, line.outputs[0]!.unit);
}

/** The same for a channel of a gadget by its id; null for one whose needle shows a figure. */
export function wordOfReading(
  channels: readonly Channel[],
  channelId: string,
  line: CompiledLine | null,
  value: number,
  reason: number,
): string | null {
  const channel = channels.find((c) => c.id === channelId);
  if (!channel || !line || shownFigure(channel)) return null;
  return stateOfReading(channel.states, line, value, reason);
}

/** Unit that a channel's needle shows: of its figure, or of its readings; null where it shows none. */
export function needleUnit(gadget: Gadget, channel: Channel): UnitId | null {
  const figure = shownFigure(channel);
  return figure ? figureUnit(gadget, channel, figure) : readingUnit(gadget, channel);
}

/** What is wrong with the words of a channel, with the way out; null when all can be said. */
export function statesFault(gadget: Gadget, channel: Channel): string | null {
  const states = channel.states ?? [];
  const unit = needleUnit(gadget, channel);
  for (const { name, from, to, unit: own } of states) {
    const { symbol } = UNITS[own];
    if (from === null && to === null)
      return `“${name}” would apply to every reading. Enter a lowest or a highest value.`;
    if (from !== null && to !== null && from > to)
      return `“${name}” runs from ${from} to ${to} ${symbol}, which is an empty range. Swap the two values.`;
    if (unit && UNITS[unit].dimension !== UNITS[own].dimension)
      return `“${name}” is in ${symbol}, but the reading is in ${UNITS[unit].symbol || 'plain numbers'}. Use that unit.`;
  }
  return null;
}

/** What gives 0 stands still. */
export const stopped = (unit: UnitId): NamedState => ({ name: 'stopped', unit, from: 0, to: 0 });

/** Words that a channel can have by what it is made of: nothing that turns, ticks or comes is no number to read. */
export function proposedStates(gadget: Gadget, channel: Channel): NamedState[] {
  const figure = shownFigure(channel);
  const comes = figure
    ? figure.kind === 'cadence'
    : channel.line.stages.some((s) => ENDS_AT_ZERO.has(s.kind));
  const unit = needleUnit(gadget, channel);
  return comes && unit ? [stopped(unit)] : [];
}

/** A word with what it stands for: "stopped" at 0 rpm. */
export function stateInWords({ name, unit, from, to, cutOff }: NamedState): string {
  const { symbol } = UNITS[unit];
  const at = (v: number) => `${printNominal(v, 4)} ${symbol}`.trim();
  const where =
    from === null
      ? `at most ${at(to!)}`
      : to === null
        ? `at least ${at(from)}`
        : from === to
          ? `at ${at(from)}`
          : `${printNominal(from, 4)} to ${at(to)}`;
  return `“${name}” ${where}${cutOff ? ', or ADC at the end of its range' : ''}`;
}
