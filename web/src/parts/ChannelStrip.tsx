import { useMemo } from 'react';
import { besideOthers, readingUnit, shownFigure, toleranceIn } from '@lucky-needle/core/plan';
import { useLiveOf } from '../live/useLive.ts';
import { useBench, type ChannelContext } from '../app/useBench.ts';
import { useLiveLine, type LiveLine } from '../live/useLiveLine.ts';
import { NeedleStrip, type Found } from './NeedleStrip.tsx';
import { slipHref } from './slipHref.ts';
import { useShownWorth } from './useShownWorth.ts';
import type { Channel, SeenEvent } from '@lucky-needle/core/model';

/** What was counted in the last minute; null where nothing is. */
function foundIn({ watches = [] }: Channel, events: readonly SeenEvent[], newestS: number): Found | null {
  const watch = watches.find((w) => w.column === null && w.kind !== 'button') ?? watches[0];
  if (!watch) return null;
  const recent = events.filter(
    (e) => e.what === 'event' && e.watchId === watch.id && e.timeS >= newestS - 60,
  );
  const counted = recent.filter((e) => e.counted).length;
  return { name: watch.name, counted, refused: recent.length - counted };
}

interface Props {
  readonly channel: ChannelContext;
  /** Shows the reading also where the needle shows a figure: what is trued up is the reading. */
  readonly readingOnly?: boolean;
}

/** The needle strip of a channel, fed by the live link. */
export function ChannelStrip(props: Props) {
  const { gadget } = useBench();
  const live = useLiveLine(props.channel.channel.id, props.channel.line, gadget.sampleRateHz);
  return <StripOf {...props} live={live} worth={useShownWorth(props.channel, live)} />;
}

interface StripProps extends Props {
  readonly live: LiveLine;
  /** Standard uncertainty of the newest reading; null when not known. */
  readonly worth: number | null;
}

/** The same of a page that has run the line, and knows what its reading is worth. */
export function StripOf({ channel, live: shown, worth, readingOnly = false }: StripProps) {
  const { gadget } = useBench();
  const counts = useLiveOf((l) => l.counts);
  const counted = counts.get(channel.channel.id);
  const spec = readingOnly ? null : shownFigure(channel.channel);
  const readings = useLiveOf((l) => l.readings);
  const units = useMemo(() => new Map(gadget.channels.map((c) => [c.id, readingUnit(gadget, c)])), [gadget]);
  const beside = besideOthers(gadget, channel.channel, (id) => {
    const value = readings.get(id)?.at(-1)?.values.at(-1);
    const unit = units.get(id);
    return value === undefined || !unit ? null : { value, unit };
  });
  return (
    <div className="mb-4">
      <NeedleStrip
        live={shown}
        calibration={channel.covariance}
        noiseRaw={channel.noiseRaw}
        worth={worth}
        states={channel.channel.states}
        figure={
          spec && {
            name: spec.name,
            now: counted?.figures.find((f) => f.id === spec.id) ?? null,
            problem: counted?.problem ?? null,
          }
        }
        found={foundIn(channel.channel, counted?.events ?? [], shown.times.at(-1) ?? 0)}
        tolerance={shown.line && toleranceIn(channel.brief, shown.line.outputs[0]!.unit)}
        slipHref={slipHref(gadget.id, channel.channel.id)}
        stageHref={(stageId) =>
          `/g/${gadget.id}/line?ch=${channel.channel.id}${stageId ? `#${stageId}` : ''}`
        }
      />
      {beside && (
        <p role="note" className="mt-1 text-sm text-warning">
          {beside}
        </p>
      )}
    </div>
  );
}
