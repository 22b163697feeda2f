import {
  faceWidget,
  heldFigure,
  raceFigure,
  stopwatchOf,
  type PageContent,
  type WidgetSeen,
} from '@lucky-needle/core/face';
import type { Channel, FacePage, FaceWidget, Gadget, NowFigure } from '@lucky-needle/core/model';
import { REASON } from '@lucky-needle/core/line';
import { convertUnit, printNumber, UNITS, type UnitId } from '@lucky-needle/core/units';
import { bigReading } from './bigReading.ts';
import { faceReading, inUnit } from './faceReading.ts';
import type { FaceSource } from './faceSource.ts';
import type { ChannelReading } from './useFaceReadings.ts';

/** What a page of a face has to show at this moment. @param unit chosen by a button; null for each reading's own */
export function pageContentOf(
  gadget: Gadget,
  page: FacePage,
  source: FaceSource,
  unit: UnitId | null,
): PageContent {
  return {
    alarm: source.alarm,
    widgets: page.widgets.map((spec) => ({ spec, seen: seenOf(gadget, spec, source, unit) })),
  };
}

function seenOf(gadget: Gadget, spec: FaceWidget, source: FaceSource, unit: UnitId | null): WidgetSeen {
  const own = readingFor(gadget, spec, source);
  const shown = own && inUnit(own, unit);
  const channel = gadget.channels.find((c) => c.id === own?.id);
  const reading = shown ? faceReading(shown, source) : null;
  return {
    reading,
    extremes: channel && shown ? extremesOf(spec, channel, shown, source) : null,
    race: channel ? raceOf(spec, channel, source) : null,
    spectrum:
      spec.kind === 'spectrum' && channel && source.silent === null ? source.spectrum(channel.id) : null,
    alarm: source.alarm,
    title: spec.text || (reading?.name ?? ''),
  };
}

/** What a widget shows: the channel's needle, or one of its figures. */
function readingFor(gadget: Gadget, spec: FaceWidget, source: FaceSource): ChannelReading | null {
  const { readings, counts } = source;
  const needle = spec.channelId === '' ? undefined : bigReading(readings, spec.channelId);
  if (!needle) return null;
  const wants = faceWidget(spec.kind)?.wants;
  const channel = gadget.channels.find((c) => c.id === needle.id);
  const race = wants === 'race' && channel ? raceFigure(channel) : null;
  const figureId = spec.figureId ?? race?.id ?? null;
  if (figureId === null) return needle;
  const figure = channel?.figures?.find((f) => f.id === figureId);
  if (!channel || !figure) return null;
  const now = counts.get(channel.id)?.figures.find((f) => f.id === figureId);
  return {
    id: channel.id,
    name: figure.name,
    history: [],
    isDirection: needle.isDirection && now?.unit === 'deg',
    brief: null,
    value: now?.value ?? Number.NaN,
    reason: now && now.value !== null ? REASON.ok : REASON.waiting,
    state: figureId === channel.shows ? needle.state : null,
    unit: now?.unit ?? needle.unit,
    uncertainty: now?.uncertainty ?? null,
    decimals: now?.decimals ?? null,
  };
}

function extremesOf(
  spec: FaceWidget,
  channel: Channel,
  shown: ChannelReading,
  source: FaceSource,
): WidgetSeen['extremes'] {
  if (!faceWidget(spec.kind)?.keeps || source.silent !== null) return null;
  const end = (which: 'lowest' | 'highest') => {
    const id = heldFigure(channel, which)?.id;
    return source.counts.get(channel.id)?.figures.find((f) => f.id === id);
  };
  const [low, high] = [end('lowest'), end('highest')];
  if (!isThere(low) && !isThere(high)) return null;
  return [printed(low, shown.unit), printed(high, shown.unit)];
}

const isThere = (figure: NowFigure | undefined): figure is NowFigure & { value: number } =>
  figure !== undefined && figure.value !== null;

const printed = (figure: NowFigure | undefined, unit: UnitId): string =>
  isThere(figure) && UNITS[figure.unit].dimension === UNITS[unit].dimension
    ? printNumber(convertUnit(figure.value, figure.unit, unit), figure.decimals)
    : '?';

function raceOf(spec: FaceWidget, channel: Channel, source: FaceSource): WidgetSeen['race'] {
  if (faceWidget(spec.kind)?.wants !== 'race') return null;
  const figure = channel.figures?.find((f) => f.id === spec.figureId) ?? raceFigure(channel);
  if (!figure) return null;
  const counts = source.counts.get(channel.id);
  const now = counts?.figures.find((f) => f.id === figure.id) ?? null;
  return stopwatchOf(figure, now, counts?.events ?? [], source.silent === null ? source.nowS : Number.NaN);
}
