import { X } from 'lucide-react';
import { useEffect, useId, useRef, useState } from 'react';
import { useLocation } from 'react-router';
import type { SlipObservation } from '@lucky-needle/core/calibrate';
import { editLine } from '@lucky-needle/core/line';
import { printNominal, UNITS, type UnitId } from '@lucky-needle/core/units';
import { draftKey, lineChanged } from '../../app/drafts.ts';
import { useAppDispatch } from '../../app/store.ts';
import { toastShown } from '../../app/toasts.ts';
import { useBench, type ChannelContext } from '../../app/useBench.ts';
import { useLiveLine } from '../../live/useLiveLine.ts';
import { parseTyped } from '../../parts/NumberField.tsx';
import { StreamCard } from './StreamCard.tsx';
import { SlipCard } from '../../parts/SlipCard.tsx';

interface Props {
  readonly channel: ChannelContext;
  readonly unit: UnitId;
}

/** "It shows X, it should be about Y": asks what slipped; a slip in the line is taken out on trial, and can be undone. */
export function SlipForm({ channel, unit }: Props) {
  const { gadget, recordings } = useBench();
  const live = useLiveLine(channel.channel.id, channel.line, gadget.sampleRateHz);
  const dispatch = useAppDispatch();
  const [shownText, setShownText] = useState('');
  const [expectedText, setExpectedText] = useState('');
  const [kept, setKept] = useState<readonly SlipObservation[]>([]);
  const [asked, setAsked] = useState<readonly SlipObservation[] | null>(null);
  const box = useRef<HTMLElement>(null);
  const { hash } = useLocation();
  useEffect(() => {
    if (hash === '#slip') box.current?.scrollIntoView({ block: 'center' });
  }, [hash]);
  const isTyped = shownText.trim() !== '';
  const reads = live.newest.at(-1) ?? Number.NaN;
  const shown = isTyped ? parseTyped(shownText) : reads;
  const expected = parseTyped(expectedText);
  const { symbol } = UNITS[unit];
  const isWhole = Number.isFinite(shown) && Number.isFinite(expected);
  const now = (): SlipObservation => {
    // The counts are those of the link, also beside what the gadget's own display shows.
    const [raw] = live.newestRaw;
    return { shown, expected, ...(raw === undefined ? {} : { raw }) };
  };
  const add = () => {
    setKept([...kept, now()]);
    setShownText('');
    setExpectedText('');
    setAsked(null);
  };
  return (
    <section className="panel grid gap-2" aria-label="Find a mistake" id="slip" ref={box}>
      <h2>Reading far off? Find the mistake</h2>
      <p className="muted text-sm">
        Enter two observations, one small and one large, to tell a missing zero from a wrong scale factor.
      </p>
      {kept.length > 0 && (
        <ul className="grid gap-1 text-sm" aria-label="Observations">
          {kept.map((o, i) => (
            <li key={i} className="flex items-center gap-2">
              <span className="num">
                {printNominal(o.shown, 4)} {symbol} read, expected about {printNominal(o.expected, 4)}{' '}
                {symbol}{' '}
              </span>
              <button
                type="button"
                className="btn btn-ghost btn-xs px-1"
                aria-label={`Remove observation ${i + 1}`}
                onClick={() => setKept(kept.filter((_, k) => k !== i))}
              >
                <X className="size-3.5" aria-hidden />
              </button>
            </li>
          ))}
        </ul>
      )}
      <form
        className="flex flex-wrap items-end gap-2 text-sm"
        onSubmit={(event) => {
          event.preventDefault();
          setAsked(isWhole ? [...kept, now()] : kept);
        }}
      >
        <Typed
          label={`Reading, ${symbol}`}
          placeholder={Number.isFinite(reads) ? `now ${printNominal(reads, 4)}` : 'no reading'}
          value={shownText}
          onChange={setShownText}
        />
        <Typed
          label={`Expected value, ${symbol}`}
          placeholder=""
          value={expectedText}
          onChange={setExpectedText}
        />
        <button type="button" className="btn btn-ghost btn-sm" disabled={!isWhole} onClick={add}>
          Add another
        </button>
        <button className="btn btn-sm" disabled={!isWhole && kept.length === 0}>
          Find the mistake
        </button>
      </form>
      <p className="muted text-xs">
        Leave “Reading” empty to use the live reading, or enter what the gadget’s own display shows.
      </p>
      {asked && (
        <SlipCard
          observations={asked}
          unit={unit}
          line={channel.line}
          sampleRateHz={gadget.sampleRateHz}
          onClose={() => setAsked(null)}
          onApply={(edit) => {
            const key = draftKey(gadget.id, channel.channel.id);
            dispatch(lineChanged({ key, saved: channel.channel.line, line: editLine(channel.base, [edit]) }));
            dispatch(
              toastShown({
                text: 'Correction applied to the line as a draft. Save or undo it on the Line page.',
                tone: 'done',
              }),
            );
            setAsked(null);
            setKept([]);
          }}
        />
      )}
      <StreamCard gadgetId={gadget.id} channelId={channel.channel.id} recordings={recordings} />
    </section>
  );
}

function Typed(props: { label: string; placeholder: string; value: string; onChange(text: string): void }) {
  const id = useId();
  return (
    <div className="w-36">
      <label htmlFor={id} className="muted mb-1 block text-xs">
        {props.label}
      </label>
      <input
        id={id}
        className="input input-sm num w-full"
        inputMode="decimal"
        autoComplete="off"
        placeholder={props.placeholder}
        value={props.value}
        onChange={(e) => props.onChange(e.target.value)}
      />
    </div>
  );
}
