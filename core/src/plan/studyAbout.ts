import type { ChannelBrief, Channel, Gadget } from '../model/gadget.ts';
import type { StudyAbout } from '../study/index.ts';
import { convertUnit, UNITS } from '../units/index.ts';
import { briefFor, toleranceIn } from './briefFor.ts';
import { figureBrief, figureUnit, readingUnit } from './shown.ts';

/** What a study of a channel's reading or of one of its figures is about; null where there is no such thing, or it does not run. */
export function studyAbout(gadget: Gadget, channelId: string, figureId: string | null): StudyAbout | null {
  const channel = gadget.channels.find((c) => c.id === channelId);
  if (!channel) return null;
  return figureId === null ? ofReading(gadget, channel) : ofFigure(gadget, channel, figureId);
}

function ofReading(gadget: Gadget, channel: Channel): StudyAbout | null {
  const unit = readingUnit(gadget, channel);
  return unit && { name: channel.name, unit, isCount: false, ...askedOf(briefFor(gadget, channel), unit) };
}

function ofFigure(gadget: Gadget, channel: Channel, figureId: string): StudyAbout | null {
  const spec = channel.figures?.find((f) => f.id === figureId);
  const unit = spec && figureUnit(gadget, channel, spec);
  if (!unit) return null;
  return {
    name: `${spec.name} of ${channel.name}`,
    unit,
    isCount: spec.kind === 'count',
    ...askedOf(figureBrief(gadget, channel, spec), unit),
  };
}

function askedOf(brief: ChannelBrief | null, unit: StudyAbout['unit']) {
  const tolerance = toleranceIn(brief, unit);
  // A brief that asks for another quantity asks nothing of this one but how fast it changes.
  const isAsked = brief !== null && UNITS[brief.unit].dimension === UNITS[unit].dimension;
  return {
    tolerance,
    range: isAsked
      ? ([convertUnit(brief.low, brief.unit, unit), convertUnit(brief.high, brief.unit, unit)] as const)
      : null,
    brief,
  };
}
