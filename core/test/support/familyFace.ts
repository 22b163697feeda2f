import {
  startingPages,
  type DisplayGrid,
  type FaceAlarm,
  type FaceReading,
  type PageContent,
  type WidgetSeen,
} from '../../src/face/index.ts';
import { compileLine, givesDirection } from '../../src/line/index.ts';
import type { FaceLook, FacePage, Gadget } from '../../src/model/index.ts';
import { briefFor, figureBrief, rangeIn, shownFigure, toleranceIn, wholeLine } from '../../src/plan/index.ts';
import { printNominal, printNumber, readingDecimals, UNITS } from '../../src/units/index.ts';
import { familyGadget } from './familyGadget.ts';

export interface Shown {
  readonly id: string;
  readonly reading: FaceReading;
  readonly isDirection: boolean;
  readonly hasRange: boolean;
}

/** What a family's template shows, at some six tenths of what is asked. */
export function familyReadings(family: number, change: Partial<FaceReading> = {}): Shown[] {
  const gadget = familyGadget(family);
  return gadget.channels.map((channel, k) => shownOf(gadget, channel, k, change));
}

function shownOf(
  gadget: Gadget,
  channel: Gadget['channels'][number],
  k: number,
  change: Partial<FaceReading>,
): Shown {
  const line = compileLine(wholeLine(gadget, channel, []), { sampleRateHz: gadget.sampleRateHz });
  const figure = shownFigure(channel);
  const brief = figure ? figureBrief(gadget, channel, figure) : briefFor(gadget, channel);
  const unit = brief?.unit ?? line.outputs[0]!.unit;
  const range = brief && rangeIn(brief, unit);
  const value = range ? range.low + (0.62 - 0.05 * k) * (range.high - range.low) : 1;
  const tolerance = toleranceIn(brief, unit);
  const isDirection = givesDirection(line.spec);
  const reading: FaceReading = {
    name: figure ? `${channel.name}: ${figure.name}` : channel.name,
    text: printNumber(value, readingDecimals(tolerance, tolerance)),
    unit: UNITS[unit].symbol,
    worth: tolerance === null ? '' : `±${printNominal(tolerance, 2)}`,
    state: '',
    detail: '',
    share: range ? (value - range.low) / (range.high - range.low) : null,
    ends: range ? [printNominal(range.low, 4), printNominal(range.high, 4)] : ['', ''],
    courseDeg: isDirection ? value : null,
    history: Array.from({ length: 120 }, (_, i) => value * (1 + 0.05 * Math.sin(i / 9))),
    ...change,
  };
  return { id: channel.id, reading, isDirection, hasRange: range !== null };
}

/** A page with what there is to show on it; all that a widget could want is there. */
export function contentOf(page: FacePage, shown: readonly Shown[], alarm: FaceAlarm): PageContent {
  return {
    alarm,
    widgets: page.widgets.map((spec) => {
      const reading = (shown.find((s) => s.id === spec.channelId) ?? shown[0])?.reading ?? null;
      const seen: WidgetSeen = {
        reading,
        extremes: reading ? ['1.2', '9.8'] : null,
        race: { state: 'running', text: '7.4' },
        spectrum: {
          hz: Array.from({ length: 64 }, (_, k) => k),
          size: Array.from({ length: 64 }, (_, k) => 1 / (1 + (k - 17) ** 2)),
        },
        alarm,
        title: spec.text || (reading?.name ?? ''),
      };
      return { spec, seen };
    }),
  };
}

/** The starting pages of what is shown, on a display. */
export function startingContent(
  grid: DisplayGrid,
  shown: readonly Shown[],
  look: FaceLook = 'auto',
  alarm: FaceAlarm = { level: 'quiet', name: '' },
): PageContent[] {
  return startingPages(grid, shown, shown[0]!.id, look).map((page) => contentOf(page, shown, alarm));
}
