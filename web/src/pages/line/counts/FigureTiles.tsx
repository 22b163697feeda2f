import { Pencil } from 'lucide-react';
import type { FigureSpec, NowFigure } from '@lucky-needle/core/model';
import { printNumber } from '@lucky-needle/core/units';
import { figureText, worthText } from '../../../parts/counts/figureText.ts';
import type { ReadingText } from '../readingText.ts';

interface Props {
  readonly specs: readonly FigureSpec[];
  readonly figures: readonly NowFigure[];
  /** What the reading itself shows, as the first tile. */
  readonly reading: ReadingText;
  readonly shows: string | null;
  readonly openId: string | null;
  /** Now on the gadget’s clock, or the start of the run, s. */
  readonly zeroS: number;
  readonly isLive: boolean;
  onShow(id: string | null): void;
  onOpen(id: string): void;
}

/** What the needle can show: the reading, and each figure with its worth and where it comes from. Red is on the needle. */
export function FigureTiles(props: Props) {
  const { specs, figures, reading, shows, openId, zeroS, isLive, onShow, onOpen } = props;
  return (
    <ul className="grid grid-cols-2 gap-2 lg:grid-cols-4" aria-label="Values for the needle">
      <Tile
        title="Reading"
        value={reading.value}
        worth={reading.worth}
        isShown={shows === null}
        onShow={() => onShow(null)}
      />
      {specs.map((spec) => {
        const now = figures.find((f) => f.id === spec.id);
        return (
          <Tile
            key={spec.id}
            title={spec.name}
            value={now ? figureText(now) : '–'}
            worth={now ? worthText(now) : ''}
            note={now && (now.reason ?? [whenText(now, zeroS, isLive), now.how].filter(Boolean).join(' '))}
            isShown={shows === spec.id}
            isOpen={openId === spec.id}
            onShow={() => onShow(spec.id)}
            onOpen={() => onOpen(spec.id)}
          />
        );
      })}
    </ul>
  );
}

/** When it was, where it is of one moment that has passed. */
function whenText({ timeS }: NowFigure, zeroS: number, isLive: boolean): string {
  if (timeS === null) return '';
  if (!isLive) return `At ${printNumber(timeS - zeroS, 1)} s.`;
  const agoS = zeroS - timeS;
  return agoS < 2 ? '' : `${printNumber(agoS, agoS < 100 ? 1 : 0)} s ago.`;
}

interface TileProps {
  readonly title: string;
  readonly value: string;
  readonly worth: string;
  readonly note?: string | null | undefined;
  readonly isShown: boolean;
  readonly isOpen?: boolean;
  onShow(): void;
  onOpen?: () => void;
}

function Tile({ title, value, worth, note, isShown, isOpen = false, onShow, onOpen }: TileProps) {
  return (
    <li
      className={`relative rounded-box border bg-base-100 ${isShown ? 'border-l-4 border-accent' : isOpen ? 'border-primary' : 'border-base-300'}`}
    >
      <button
        type="button"
        className="flex h-full w-full flex-col items-start rounded-box p-3 text-left hover:bg-base-200"
        aria-pressed={isShown}
        onClick={onShow}
      >
        <span className="block pr-5 text-sm leading-tight font-semibold">{title}</span>
        <span className="num block text-sm">
          {value} <span className="muted whitespace-nowrap">{worth}</span>
        </span>
        <span className={`block text-xs ${isShown ? 'font-semibold' : 'muted'}`}>
          {isShown ? 'on the needle' : onOpen ? 'also calculated' : 'show instead'}
        </span>
        {note && <span className="muted mt-1 block text-xs">{note}</span>}
      </button>
      {onOpen && (
        <button
          type="button"
          className="btn btn-ghost btn-xs absolute top-1.5 right-1.5 px-1"
          aria-label={`Edit ${title}`}
          aria-expanded={isOpen}
          title={`Edit ${title}`}
          onClick={onOpen}
        >
          <Pencil className="size-3.5" aria-hidden />
        </button>
      )}
    </li>
  );
}
