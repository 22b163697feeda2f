import type { FaceContent } from '../../src/face/index.ts';
import { compileLine, givesDirection } from '../../src/line/index.ts';
import { briefFor, figureBrief, rangeIn, shownFigure, toleranceIn, wholeLine } from '../../src/plan/index.ts';
import { printNominal, printNumber, readingDecimals, UNITS } from '../../src/units/index.ts';
import { familyGadget } from './familyGadget.ts';

/** A family's face as its template would show it, at some six tenths of what is asked. */
export function familyFace(family: number, change: Partial<FaceContent> = {}): FaceContent {
  const gadget = familyGadget(family);
  const readings = gadget.channels.map((channel, k) => {
    const line = compileLine(wholeLine(gadget, channel, []), { sampleRateHz: gadget.sampleRateHz });
    const figure = shownFigure(channel);
    const brief = figure ? figureBrief(gadget, channel, figure) : briefFor(gadget, channel);
    const unit = brief?.unit ?? line.outputs[0]!.unit;
    const range = brief && rangeIn(brief, unit);
    const value = range ? range.low + (0.62 - 0.05 * k) * (range.high - range.low) : 1;
    const tolerance = toleranceIn(brief, unit);
    const isDirection = givesDirection(line.spec);
    return {
      name: figure ? `${channel.name}: ${figure.name}` : channel.name,
      text: printNumber(value, readingDecimals(tolerance, tolerance)),
      unit: UNITS[unit].symbol,
      worth: tolerance === null ? '' : `±${printNominal(tolerance, 2)}`,
      state: '',
      detail: '',
      share: range ? (value - range.low) / (range.high - range.low) : null,
      ends: (range ? [printNominal(range.low, 4), printNominal(range.high, 4)] : ['', '']) as [
        string,
        string,
      ],
      courseDeg: isDirection ? value : null,
      history: Array.from({ length: 120 }, (_, i) => value * (1 + 0.05 * Math.sin(i / 9))),
    };
  });
  return { readings, big: 0, alarm: { level: 'quiet', name: '' }, look: 'auto', ...change };
}
