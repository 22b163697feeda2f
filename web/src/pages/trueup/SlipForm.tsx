import { useState } from 'react';
import type { SlipObservation } from '@lucky-needle/core/calibrate';
import { editLine } from '@lucky-needle/core/line';
import { printNominal, UNITS, type UnitId } from '@lucky-needle/core/units';
import { draftKey, lineChanged } from '../../app/drafts.ts';
import { useAppDispatch } from '../../app/store.ts';
import { toastShown } from '../../app/toasts.ts';
import { useBench, type ChannelContext } from '../../app/useBench.ts';
import { useLiveLine } from '../../live/useLiveLine.ts';
import { parseTyped } from '../../parts/NumberField.tsx';
import { SlipCard } from '../../parts/SlipCard.tsx';

interface Props {
  readonly channel: ChannelContext;
  readonly unit: UnitId;
}

/** "It shows X, it should be about Y": asks what slipped; a slip in the line is taken out on trial, and can be undone. */
export function SlipForm({ channel, unit }: Props) {
  const { gadget } = useBench();
  const live = useLiveLine(channel.channel.id, channel.line, gadget.sampleRateHz);
  const dispatch = useAppDispatch();
  const [text, setText] = useState('');
  const [asked, setAsked] = useState<SlipObservation | null>(null);
  const shown = live.newest.at(-1) ?? Number.NaN;
  const expected = parseTyped(text);
  const symbol = UNITS[unit].symbol;
  return (
    <section className="panel grid gap-2" aria-label="What slipped?">
      <h2>Far off? What slipped?</h2>
      <form
        className="flex flex-wrap items-center gap-2 text-sm"
        onSubmit={(event) => {
          event.preventDefault();
          const [raw] = live.newestRaw;
          setAsked({ shown, expected, ...(raw === undefined ? {} : { raw }) });
        }}
      >
        <span>
          It shows{' '}
          <span className="num font-semibold">
            {Number.isFinite(shown) ? `${printNominal(shown, 4)} ${symbol}` : 'nothing'}
          </span>
          ; it should be about
        </span>
        <input
          className="input input-sm num w-24"
          inputMode="decimal"
          aria-label={`It should be about, ${symbol}`}
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        <span>{symbol}</span>
        <button className="btn btn-sm" disabled={!Number.isFinite(shown) || !Number.isFinite(expected)}>
          Find the slip
        </button>
      </form>
      {asked && (
        <SlipCard
          observation={asked}
          unit={unit}
          line={channel.line}
          sampleRateHz={gadget.sampleRateHz}
          onClose={() => setAsked(null)}
          onApply={(edit) => {
            const key = draftKey(gadget.id, channel.channel.id);
            dispatch(lineChanged({ key, saved: channel.channel.line, line: editLine(channel.base, [edit]) }));
            dispatch(
              toastShown({
                text: 'Taken out of the line on trial; save or undo it on the Line page.',
                tone: 'done',
              }),
            );
            setAsked(null);
          }}
        />
      )}
    </section>
  );
}
