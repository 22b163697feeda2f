import { useState } from 'react';
import type { BeyondRule } from '@lucky-needle/core/detect';
import { printNominal, printSignificant, UNITS, type UnitId } from '@lucky-needle/core/units';
import { parseTyped } from '../../parts/NumberField.tsx';
import type { StretchesAnswer } from '@lucky-needle/core/model';
import type { StretchesWanted } from './useStretches.ts';

interface Props {
  readonly channels: readonly {
    readonly id: string;
    readonly name: string;
    readonly unit: UnitId;
    /** Whether it is an angle round the circle: a sector is asked for then. */
    readonly isDirection: boolean;
    readonly low: number;
    readonly high: number;
  }[];
  readonly found: StretchesAnswer | null;
  readonly error: string | null;
  /** The recording's first moment in its own time, s. */
  readonly startS: number;
  onFind(wanted: StretchesWanted | null): void;
  /** Looks at a stretch, s since the start. */
  onLook(fromS: number, toS: number): void;
}

/** Rows that are told; more of them say nothing more. */
const MOST_ROWS = 50;

/** Asks for a level, and lists the stretches in which a channel reads above or below it. */
export function Stretches({ channels, found, error, startS, onFind, onLook }: Props) {
  const [channelId, setChannelId] = useState(channels[0]?.id ?? '');
  const [side, setSide] = useState<BeyondRule['side']>('above');
  const channel = channels.find((c) => c.id === channelId) ?? channels[0];
  const [level, setLevel] = useState('');
  const [back, setBack] = useState('');
  const [until, setUntil] = useState('');
  const [asked, setAsked] = useState<{
    readonly side: BeyondRule['side'];
    readonly unit: UnitId;
    readonly where: string;
  } | null>(null);
  if (!channel) return null;
  const span = channel.high - channel.low;
  const typed = parseTyped(level);
  const { isDirection } = channel;
  const untilDeg = isDirection ? parseTyped(until) : null;
  const usual = isDirection ? 5 : span / 50;
  const comesBack = back.trim() === '' ? usual : parseTyped(back);
  const fault =
    level.trim() === ''
      ? null
      : Number.isNaN(typed)
        ? `“${level}” is not a number.`
        : untilDeg !== null &&
            !(untilDeg >= 0 && untilDeg <= 360 && typed >= 0 && typed <= 360 && untilDeg !== typed)
          ? 'Enter two different directions from 0 to 360°; the sector runs clockwise from the first to the second.'
          : !(comesBack >= 0)
            ? 'Hysteresis must be a number, 0 or more.'
            : null;
  const symbol = UNITS[channel.unit].symbol;
  const field = 'input input-sm num w-24';
  return (
    <div className="grid gap-2 py-2 text-sm">
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (fault || level.trim() === '') return;
          setAsked({
            side,
            unit: channel.unit,
            where: isDirection ? 'in that sector' : `${side} that level`,
          });
          onFind({ channelId: channel.id, rule: { side, level: typed, comesBack }, untilDeg });
        }}
      >
        <label className="grid gap-1">
          <span className="muted text-xs">Channel</span>
          <select
            className="select select-sm"
            value={channel.id}
            onChange={(e) => setChannelId(e.target.value)}
          >
            {channels.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </select>
        </label>
        {!isDirection && (
          <label className="grid gap-1">
            <span className="muted text-xs">Condition</span>
            <select
              className="select select-sm"
              aria-label="Above or below"
              value={side}
              onChange={(e) => setSide(e.target.value as BeyondRule['side'])}
            >
              <option value="above">above</option>
              <option value="below">below</option>
            </select>
          </label>
        )}
        <label className="grid gap-1">
          <span className="muted text-xs">
            {isDirection ? 'From, °' : `Level, ${symbol || 'reading units'}`}
          </span>
          <input
            className={field}
            inputMode="decimal"
            placeholder={printNominal((channel.low + channel.high) / 2, 3)}
            value={level}
            onChange={(e) => setLevel(e.target.value)}
          />
        </label>
        {isDirection && (
          <label className="grid gap-1">
            <span className="muted text-xs">Clockwise to, °</span>
            <input
              className={field}
              inputMode="decimal"
              value={until}
              onChange={(e) => setUntil(e.target.value)}
            />
          </label>
        )}
        <label className="grid gap-1">
          <span className="muted text-xs">Hysteresis</span>
          <input
            className={field}
            inputMode="decimal"
            placeholder={printNominal(usual, 2)}
            value={back}
            onChange={(e) => setBack(e.target.value)}
          />
        </label>
        <button className="btn btn-sm" disabled={level.trim() === '' || fault !== null}>
          Find
        </button>
        {found && (
          <button
            type="button"
            className="btn btn-ghost btn-sm"
            onClick={() => {
              setAsked(null);
              onFind(null);
            }}
          >
            Clear
          </button>
        )}
      </form>
      {(fault ?? error) && (
        <p role="alert" className="text-error">
          {fault ?? error}
        </p>
      )}
      {found && asked && (
        <>
          <p role="status">
            {found.count === 0
              ? `No readings ${asked.where} in the range shown.`
              : found.count === 1
                ? `1 section ${asked.where}, ${duration(found.togetherS)} long.`
                : `${found.count.toLocaleString('en')} sections ${asked.where}, ${duration(found.togetherS)} in total.`}
          </p>
          {found.count > 0 && (
            <div className="overflow-x-auto">
              <table className="table-sm table" aria-label="Sections">
                <thead>
                  <tr>
                    <th className="pl-0">Start</th>
                    <th className="text-right">Duration</th>
                    <th className="text-right">{asked.side === 'above' ? 'Maximum' : 'Minimum'}</th>
                    <th />
                  </tr>
                </thead>
                <tbody className="num">
                  {found.stretches.slice(0, MOST_ROWS).map((s) => {
                    const [from, to] = [s.startS - startS, s.endS - startS];
                    const beside = Math.max(to - from, 1e-6);
                    return (
                      <tr key={s.startS}>
                        <td className="pl-0">{duration(from)}</td>
                        <td className="text-right whitespace-nowrap">
                          {s.cutShort && <span className="muted font-sans">at least </span>}
                          {duration(to - from)}
                        </td>
                        <td className="text-right whitespace-nowrap">
                          {printNominal(s.extreme, 4)} {UNITS[asked.unit].symbol}
                        </td>
                        <td className="text-right">
                          <button
                            type="button"
                            className="btn btn-ghost btn-xs font-sans"
                            onClick={() => onLook(from - beside, to + beside)}
                          >
                            Show
                          </button>
                        </td>
                      </tr>
                    );
                  })}
                </tbody>
              </table>
            </div>
          )}
          {found.count > MOST_ROWS && (
            <p className="muted text-xs">The first {MOST_ROWS} are listed. Zoom in to list the others.</p>
          )}
        </>
      )}
    </div>
  );
}

/** Seconds to three digits, or minutes and hours where they are many. */
export function duration(s: number): string {
  if (s < 120) return `${printSignificant(s, s < 1 ? 2 : 3)} s`;
  const minutes = Math.round(s / 6) / 10;
  return minutes < 120 ? `${printSignificant(minutes, 3)} min` : `${printSignificant(minutes / 60, 3)} h`;
}
