import { useState } from 'react';
import type { Gadget, Hookup } from '@lucky-needle/core/model';
import {
  BOARDS,
  DISPLAYS,
  assignPins,
  bestSeriesResistor,
  freeAnalogPins,
  pinConflicts,
  worstStep,
} from '@lucky-needle/core/plan';
import { convertUnit, printSignificant, UNITS } from '@lucky-needle/core/units';
import { compileLine } from '@lucky-needle/core/line';
import { useBench, useChannel } from '../../app/useBench.ts';
import { NumberField } from '../../parts/NumberField.tsx';
import { ChannelStrip } from '../../parts/ChannelStrip.tsx';
import { PageHead } from '../../parts/PageHead.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { useSaveGadget } from '../../parts/useSaveGadget.ts';
import { ExpectedTable } from './ExpectedTable.tsx';
import { LinkCard } from './LinkCard.tsx';

/** Board, pins, series resistors, and what each channel should read at first power-up. */
export function HookupPage() {
  const bench = useBench();
  const { gadget, link } = bench;
  const channel = useChannel(bench);
  const { save, saving, problem } = useSaveGadget(gadget);
  const [draft, setDraft] = useState<Hookup>(() => gadget.hookup ?? proposed(gadget));
  const board = BOARDS.find((b) => b.id === draft.boardId) ?? BOARDS[0]!;
  const display = DISPLAYS.find((d) => d.id === draft.displayId) ?? null;
  const conflicts = pinConflicts(draft.pins, gadget.channels, board, display);
  const dirty = JSON.stringify(draft) !== JSON.stringify(gadget.hookup);
  const free = freeAnalogPins(board, display);

  const change = (next: Partial<Hookup>) => {
    const merged = { ...draft, ...next };
    const newBoard = BOARDS.find((b) => b.id === merged.boardId)!;
    const pins =
      next.boardId && next.boardId !== draft.boardId
        ? assignPins(
            gadget.channels.map((c) => c.id),
            newBoard,
            DISPLAYS.find((d) => d.id === merged.displayId) ?? null,
          )
        : merged.pins;
    setDraft({ ...merged, pins });
  };
  // The board's converter is part of every line: saving another board changes the lines with it.
  const channelsOnBoard = () =>
    gadget.channels.map((c) => ({
      ...c,
      line: {
        ...c.line,
        stages: c.line.stages.map((s) =>
          s.kind === 'adc'
            ? { ...s, params: { ...s.params, bits: board.adcBits, referenceV: board.referenceV } }
            : s,
        ),
      },
    }));

  return (
    <>
      <PageHead title="Hook-up" gadget={gadget} channel={channel} />
      <ChannelStrip channel={channel} />
      <div className="grid items-start gap-4 xl:grid-cols-[1fr_24rem]">
        <div className="grid min-w-0 gap-4">
          <ExpectedTable channel={channel} />
          <section className="panel grid gap-3">
            <h2>Board and pins</h2>
            <ProblemNote problem={problem} />
            <Choice
              label="Board"
              value={draft.boardId}
              options={BOARDS}
              onChange={(boardId) => change({ boardId })}
            />
            <Choice
              label="Display"
              value={draft.displayId ?? ''}
              options={DISPLAYS}
              none="No display"
              onChange={(id) => change({ displayId: id || null })}
            />
            <p className="muted text-xs">
              {board.adcBits}-bit converter, {board.referenceV} V; {free.length} of {board.analogPins.length}{' '}
              analog pins free
              {display && (board.busPins[display.bus]?.length ?? 0) > 0
                ? `, ${board.busPins[display.bus]!.join(' and ')} go to the display’s bus`
                : ''}
              .
            </p>
            <table className="table-sm table">
              <thead>
                <tr>
                  <th className="pl-0">Channel</th>
                  <th>Pin</th>
                </tr>
              </thead>
              <tbody>
                {gadget.channels.map((c) => (
                  <tr key={c.id}>
                    <td className="pl-0">{c.name}</td>
                    <td>
                      <select
                        className="select select-xs num w-24"
                        aria-label={`Pin of ${c.name}`}
                        value={draft.pins.find((p) => p.channelId === c.id)?.pin ?? ''}
                        onChange={(e) => {
                          const others = draft.pins.filter((p) => p.channelId !== c.id);
                          setDraft({
                            ...draft,
                            pins: e.target.value
                              ? [...others, { channelId: c.id, pin: e.target.value }]
                              : others,
                          });
                        }}
                      >
                        <option value="">none</option>
                        {board.analogPins.map((pin) => (
                          <option key={pin} value={pin}>
                            {pin}
                            {free.includes(pin) ? '' : ' (bus)'}
                          </option>
                        ))}
                      </select>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            {conflicts.map((c) => (
              <p key={c.message} role="alert" className="text-sm text-error">
                ✕ {c.message}
              </p>
            ))}
            {conflicts.length === 0 && (
              <p className="text-sm text-success">✓ Every channel has a pin of its own.</p>
            )}
            <div className="flex gap-2">
              <button
                type="button"
                className="btn btn-primary btn-sm"
                disabled={!dirty || saving}
                onClick={() => void save({ hookup: draft, channels: channelsOnBoard() }, 'Hook-up saved.')}
              >
                Save the hook-up
              </button>
              {conflicts.length > 0 && (
                <button
                  type="button"
                  className="btn btn-sm"
                  onClick={() =>
                    setDraft({
                      ...draft,
                      pins: assignPins(
                        gadget.channels.map((c) => c.id),
                        board,
                        display,
                      ),
                    })
                  }
                >
                  Assign for me
                </button>
              )}
            </div>
          </section>
        </div>
        <div className="grid gap-4">
          <LinkCard gadget={gadget} link={link} />
          <SeriesResistor key={channel.channel.id} gadget={gadget} channelId={channel.channel.id} />
        </div>
      </div>
    </>
  );
}

function proposed(gadget: Gadget): Hookup {
  const board = BOARDS[0]!;
  const display = DISPLAYS[0]!;
  return {
    boardId: board.id,
    displayId: display.id,
    pins: assignPins(
      gadget.channels.map((c) => c.id),
      board,
      display,
    ),
  };
}

function Choice({
  label,
  value,
  options,
  none,
  onChange,
}: {
  label: string;
  value: string;
  options: readonly { id: string; title: string }[];
  none?: string;
  onChange(id: string): void;
}) {
  return (
    <label className="block">
      <span className="muted mb-1 block text-xs">{label}</span>
      <select className="select select-sm w-full" value={value} onChange={(e) => onChange(e.target.value)}>
        {none && <option value="">{none}</option>}
        {options.map((o) => (
          <option key={o.id} value={o.id}>
            {o.title}
          </option>
        ))}
      </select>
    </label>
  );
}

/** The marked series resistor of one channel, and which standard value would read finest. */
function SeriesResistor({ gadget, channelId }: { gadget: Gadget; channelId: string }) {
  const { save, saving, problem } = useSaveGadget(gadget);
  const channel = gadget.channels.find((c) => c.id === channelId)!;
  const stage = channel.line.stages.find((s) => s.kind === 'divider');
  const [ohm, setOhm] = useState(Number(stage?.params['seriesOhm'] ?? 0));
  if (!stage || !gadget.brief) return null;
  const { brief } = gadget;
  const with_ = (seriesOhm: number) => ({
    ...channel.line,
    stages: channel.line.stages.map((s) =>
      s.id === stage.id
        ? {
            ...s,
            params: { ...s.params, seriesOhm },
            uncertainty: { ...s.uncertainty, seriesOhm: (0.01 * seriesOhm) / Math.sqrt(3) },
          }
        : s,
    ),
  });
  const unit = compileLine(channel.line, { sampleRateHz: gadget.sampleRateHz }).outputs[0]!.unit;
  const [low, high] = [convertUnit(brief.low, brief.unit, unit), convertUnit(brief.high, brief.unit, unit)];
  const best = bestSeriesResistor(channel.line, low, high, gadget.sampleRateHz)!;
  const now = worstStep(with_(ohm), low, high, gadget.sampleRateHz);
  const symbol = UNITS[unit].symbol;
  return (
    <section className="panel grid gap-3">
      <h2>Series resistor, {channel.name.split(',')[0]}</h2>
      <ProblemNote problem={problem} />
      <NumberField
        label="As marked"
        unit="Ω"
        value={ohm}
        onChange={setOhm}
        check={(v) => (v > 0 && v <= 1e9 ? null : 'It must be above 0 Ω.')}
      />
      <p className="text-sm">
        One code is worth up to{' '}
        <span className="num font-semibold">
          {printSignificant(now, 2)} {symbol}
        </span>{' '}
        over the range.
        {best.seriesOhm !== ohm && best.worstStep < now * 0.98 && (
          <>
            {' '}
            <span className="num">{best.seriesOhm} Ω</span> would make it{' '}
            <span className="num">
              {printSignificant(best.worstStep, 2)} {symbol}
            </span>
            .
          </>
        )}
      </p>
      <button
        type="button"
        className="btn btn-sm justify-self-start"
        disabled={ohm === Number(stage.params['seriesOhm']) || saving}
        onClick={() =>
          void save(
            { channels: gadget.channels.map((c) => (c.id === channelId ? { ...c, line: with_(ohm) } : c)) },
            'Series resistor saved.',
          )
        }
      >
        Save the resistor
      </button>
    </section>
  );
}
