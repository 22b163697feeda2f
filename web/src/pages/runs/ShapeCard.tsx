import { useMemo, useState } from 'react';
import type { Recording, ShapeBody } from '@lucky-needle/core/model';
import { shapeOfStretch } from '../../api/readings.ts';
import { lookLine } from '../../app/lookLine.ts';
import { useAsked } from '../../app/useAsked.ts';
import { useBench } from '../../app/useBench.ts';
import { useShelf } from '../../app/useShelf.ts';
import { AskedNote } from '../../parts/AskedNote.tsx';
import { Choice } from '../../parts/Choice.tsx';
import { StudyPlot } from '../../parts/StudyPlot.tsx';
import type { Stretch } from './useConverted.ts';

interface Question {
  readonly recordingId: string;
  readonly body: ShapeBody;
}

const ask = ({ recordingId, body }: Question, signal: AbortSignal) =>
  shapeOfStretch(recordingId, body, signal);

/** How often each reading came in what is looked at, and its spectrum, of one channel. */
export function ShapeCard({ recording, within }: { recording: Recording; within: Stretch | null }) {
  const bench = useBench();
  const shelf = useShelf();
  const { channels } = bench.gadget;
  const [channelId, setChannelId] = useState(channels[0]!.id);
  const question = useMemo<Question>(() => {
    const channel = channels.find((c) => c.id === channelId) ?? channels[0]!;
    return {
      recordingId: recording.id,
      body: {
        line: lookLine(bench, channel, shelf, recording),
        fromS: within?.fromS ?? null,
        toS: within?.toS ?? null,
      },
    };
  }, [bench, channels, channelId, recording, shelf, within]);
  const { answer, error, share } = useAsked(question, ask);
  return (
    <div className="grid gap-2 py-2">
      <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
        {channels.length > 1 && (
          <Choice
            label="Channel"
            value={channelId}
            options={channels.map((c) => [c.id, c.name] as const)}
            onChange={setChannelId}
          />
        )}
        <p className="muted text-xs">
          {within ? 'Selected section only.' : 'Whole run. Drag over the plot to select a section.'}
        </p>
      </div>
      <AskedNote error={error} isWaiting={share !== null && !answer} />
      {answer && !error && (
        <>
          <dl className="flex flex-wrap gap-x-6 gap-y-1" aria-label="Distribution">
            {answer.facts.map(({ title, text }) => (
              <div key={title}>
                <dt className="muted text-xs">{title}</dt>
                <dd>{text}</dd>
              </div>
            ))}
          </dl>
          <div className="grid gap-4 lg:grid-cols-2">
            {answer.plots.map((plot) => (
              <StudyPlot key={plot.title} plot={plot} height={240} />
            ))}
          </div>
        </>
      )}
    </div>
  );
}
