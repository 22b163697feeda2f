import { emitAlarms } from '@lucky-needle/core/alarm';
import {
  displayGrid,
  emitFace,
  heldFigure,
  raceFigure,
  startingPages,
  type ShownInC,
} from '@lucky-needle/core/face';
import { commentText, identifier } from '@lucky-needle/core/line';
import type { Channel, FigureSpec, Gadget, NowReading } from '@lucky-needle/core/model';
import {
  briefFor,
  endsOf,
  findPart,
  rangeIn,
  readingUnit,
  shelfWith,
  shownFigure,
} from '@lucky-needle/core/plan';
import { convertUnit, printWorth, UNITS, type UnitId } from '@lucky-needle/core/units';
import { notFound, ProblemError } from '../http/problem.ts';
import type { Bench } from './bench.ts';

/** The gadget's alarms, and the rows of its display where that shows characters, as a C header. */
export function faceHeaderService(
  bench: Bench,
  now: (gadgetId: string) => Promise<{ channels: NowReading[] }>,
) {
  return async (gadgetId: string): Promise<{ name: string; text: string }> => {
    const gadget = await bench.tables.gadgets.find(gadgetId);
    if (!gadget) throw notFound('gadget', gadgetId);
    const { channels } = await now(gadgetId);
    const rules = gadget.alarms ?? [];
    const name = `${gadget.name} gadget`;
    const alarms = emitAlarms(name, rules, (channelId, figureId) =>
      fedWith(gadget, channels, channelId, figureId),
    );
    const face = await rowsOf(bench, gadget, channels, name);
    if (rules.length === 0 && !face)
      throw new ProblemError(
        422,
        'cannot-export',
        'Nothing to export',
        'The gadget has no alarms and no character display.',
        'Add an alarm on the Face page, or choose a character display.',
      );
    const guard = `${identifier(name).toUpperCase()}_H`;
    const text = `/*
 * ${commentText(gadget.name)}: alarms${face ? '  and display rows' : ''}
 * written by Lucky Needle on ${bench.now().slice(0, 10)}
 *
 * All times are in seconds from one clock that never runs backwards.
${[...(rules.length > 0 ? alarms.usage : []), ...(face?.usage ?? [])].map((u) => ` *   ${u}`).join('\n')}
 */
#ifndef ${guard}
#define ${guard}

${[rules.length > 0 ? alarms.code : '', face?.code ?? ''].filter(Boolean).join('\n\n')}

#endif
`;
    return { name: `${identifier(gadget.name)}_face.h`, text };
  };
}

function fedWith(
  gadget: Gadget,
  now: readonly NowReading[],
  channelId: string,
  figureId: string | null,
): { name: string; unit: UnitId } {
  const channel = gadget.channels.find((c) => c.id === channelId);
  const rule = (gadget.alarms ?? []).find((r) => r.channelId === channelId && r.figureId === figureId)!;
  if (figureId === null)
    return {
      name: channel?.name ?? channelId,
      unit: (channel && readingUnit(gadget, channel)) ?? rule.unit,
    };
  const told = now.find((c) => c.channelId === channelId)?.figures.find((f) => f.id === figureId);
  const figure = channel?.figures?.find((f) => f.id === figureId);
  return { name: `${channel?.name ?? channelId} ${figure?.name ?? figureId}`, unit: told?.unit ?? rule.unit };
}

/** Rows for a display of characters; null for one of pixels. */
async function rowsOf(bench: Bench, gadget: Gadget, now: readonly NowReading[], name: string) {
  const parts = shelfWith((await bench.tables.parts.list()).map((o) => o.part));
  const displayId = gadget.face?.displayId ?? gadget.picks.find((p) => p.slot === 'display')?.partId;
  const display = displayId === undefined ? undefined : findPart(parts, 'display', displayId);
  if (!display || display.widthPx > 0) return null;
  const grid = displayGrid(display);
  const running = gadget.channels.filter((c) => c.line.stages.length > 0 || c.feed);
  const bigId = gadget.face?.bigChannelId ?? running[0]?.id ?? '';
  const pages =
    gadget.face?.pages ??
    startingPages(
      grid,
      running.map(({ id }) => ({ id, isDirection: false, hasRange: true })),
      bigId,
      'auto',
    );
  const firstUnit = now.find((r) => r.channelId === running[0]?.id)?.unit;
  const shown = running.flatMap((channel): ShownInC[] => {
    const reading = now.find((r) => r.channelId === channel.id);
    if (!reading) return [];
    const brief = briefFor(gadget, channel);
    const range = brief && rangeIn(brief, reading.unit);
    const figure = shownFigure(channel);
    const keyOf = (f: FigureSpec | null, unit: UnitId | null) =>
      f && reading.figures.some((r) => r.id === f.id && (unit === null || r.unit === unit))
        ? `${channel.id}/${f.id}`
        : null;
    const keeps = (unit: UnitId) => ({
      lowest: keyOf(heldFigure(channel, 'lowest'), unit),
      highest: keyOf(heldFigure(channel, 'highest'), unit),
      race: keyOf(raceFigure(channel), null),
    });
    const own: ShownInC = {
      key: channel.id,
      name: figure ? `${channel.name}: ${figure.name}` : channel.name,
      unit: UNITS[reading.unit].symbol,
      decimals: reading.decimals,
      worth: worthOf(reading.uncertainty, reading.decimals),
      range: !figure && range ? [range.low, range.high] : null,
      states: statesIn(channel, reading.unit),
      isFollowed: reading.unit === firstUnit,
      ...keeps(reading.unit),
    };
    const figures = reading.figures.map((f): ShownInC => ({
      key: `${channel.id}/${f.id}`,
      name: f.name,
      unit: UNITS[f.unit].symbol,
      decimals: f.decimals,
      worth: worthOf(f.uncertainty, f.decimals),
      range: null,
      states: [],
      isFollowed: false,
      ...keeps(f.unit),
    }));
    return [own, ...figures];
  });
  return shown.length === 0 ? null : emitFace(name, grid, pages, shown, (gadget.alarms ?? []).length > 0);
}

/** Words of a channel with their ends in a unit. */
const statesIn = ({ states = [] }: Channel, unit: UnitId) =>
  states
    .filter((s) => UNITS[s.unit].dimension === UNITS[unit].dimension)
    .map((state) => {
      const [from, to] = endsOf(state);
      return {
        name: state.name,
        from: state.from === null ? from : convertUnit(from, state.unit, unit),
        to: state.to === null ? to : convertUnit(to, state.unit, unit),
      };
    });

const worthOf = (u: number | null, decimals: number) => (u !== null && u > 0 ? printWorth(u, decimals) : '');
