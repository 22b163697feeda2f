import { Fragment } from 'react';
import {
  assignPins,
  boardOf,
  boardPins,
  linesForPicks,
  planOf,
  wiringTable,
  type PinPlan,
  type PinsWayOut,
} from '@lucky-needle/core/plan';
import { pinWord } from '@lucky-needle/core/words';
import { useSaveGadget } from '../../parts/useSaveGadget.ts';
import { WiringDiagram } from './WiringDiagram.tsx';
import type { HookupTabProps } from './tabProps.ts';

/** Every need for a pin with what was found or set by hand, the conflict with its ways out, then all wires as a table and a drawing. */
export function WiringTab({ gadget, plan, saving, saveHookup }: HookupTabProps) {
  const board = boardOf(plan);
  const pins = assignPins(plan, board);
  const wires = wiringTable(plan, pins);
  const byHand = plan.hookup.pins;
  const set = (needId: string, pin: string) =>
    saveHookup(
      { pins: [...byHand.filter((p) => p.needId !== needId), ...(pin ? [{ needId, pin }] : [])] },
      pin ? `${pin} set manually.` : 'Pin assigned automatically.',
    );
  return (
    <div className="grid gap-4">
      <section className="panel grid gap-3" aria-label="Pins">
        <header className="flex flex-wrap items-center gap-3">
          <h2 className="section-title grow">Pins of the {board.title}</h2>
          {board.radio && (
            <label className="flex items-center gap-2 text-sm">
              <input
                type="checkbox"
                className="checkbox checkbox-sm"
                checked={plan.hookup.radioOn}
                disabled={saving}
                onChange={(e) => saveHookup({ radioOn: e.target.checked }, 'Saved.')}
              />
              Radio in use
            </label>
          )}
          {byHand.length > 0 && (
            <button
              type="button"
              className="btn btn-ghost btn-xs"
              disabled={saving}
              onClick={() => saveHookup({ pins: [] }, 'All pins are assigned automatically.')}
            >
              Assign all automatically
            </button>
          )}
        </header>
        <Verdict pins={pins} gadget={gadget} plan={plan} saveHookup={saveHookup} saving={saving} />
        {pins.needs.length === 0 ? (
          <p className="muted text-sm">No picked part needs a pin yet.</p>
        ) : (
          <div className="grid gap-x-6 gap-y-1 sm:grid-cols-2">
            {pins.needs.map((need) => {
              const found = pins.assigned.find((a) => a.id === need.id);
              return (
                <label
                  key={need.id}
                  className="flex items-center gap-3 border-b border-base-300 py-1 text-sm"
                >
                  <span className="min-w-0 grow">
                    <span className="block">{need.title}</span>
                    <span className="muted text-xs">{pinWord(need.needs)}</span>
                  </span>
                  <span className={`num w-10 text-right font-semibold ${found ? '' : 'text-error'}`}>
                    {found?.pin ?? 'none'}
                  </span>
                  <select
                    className="select select-xs num w-28"
                    aria-label={`Pin of ${need.title}`}
                    value={need.fixed ?? ''}
                    disabled={saving}
                    onChange={(e) => set(need.id, e.target.value)}
                  >
                    <option value="">automatic</option>
                    {boardPins(board).map((pin) => (
                      <option key={pin.name} value={pin.name}>
                        {pin.name}
                        {pin.reserved
                          ? ` (${pin.reserved})`
                          : pin.can.includes(need.needs)
                            ? ''
                            : ' (cannot)'}
                      </option>
                    ))}
                  </select>
                </label>
              );
            })}
          </div>
        )}
      </section>
      <section className="panel" aria-label="Wiring diagram">
        <h2>Wiring diagram</h2>
        <WiringDiagram plan={plan} wires={wires} />
      </section>
      <section className="panel" aria-label="Wiring table">
        <h2>Wiring table</h2>
        <div className="mt-2 overflow-x-auto">
          <table className="table-sm table">
            <thead>
              <tr>
                <th className="pl-0">Part</th>
                <th>Terminal</th>
                <th>Connects to</th>
                <th>Type</th>
              </tr>
            </thead>
            <tbody>
              {[...new Set(wires.map((w) => w.partId))].map((id) => {
                const own = wires.filter((w) => w.partId === id);
                return (
                  <Fragment key={id}>
                    {own.map((w, i) => (
                      <tr key={w.id}>
                        {i === 0 && (
                          <th scope="row" rowSpan={own.length} className="pl-0 align-top text-base-content">
                            {w.partTitle}
                          </th>
                        )}
                        <td>{w.at}</td>
                        <td className={`num ${w.toId === '' ? 'text-error' : ''}`}>
                          {w.to}
                          {w.byHand && <span className="muted font-sans text-xs"> manual</span>}
                        </td>
                        <td className="muted">{w.kind}</td>
                      </tr>
                    ))}
                  </Fragment>
                );
              })}
            </tbody>
          </table>
        </div>
      </section>
    </div>
  );
}

function Verdict({ pins, gadget, plan, saving, saveHookup }: HookupTabProps & { pins: PinPlan }) {
  const { save } = useSaveGadget(gadget);
  if (pins.conflicts.length === 0 && pins.unmet.length === 0)
    return <p className="text-sm text-success">✓ Every wire has its own pin.</p>;
  const take = ({ change, title }: PinsWayOut) => {
    switch (change.kind) {
      case 'extra': {
        const extras = [
          ...plan.hookup.extras.filter((e) => e.partId !== change.partId),
          { partId: change.partId, quantity: 1, owned: 0, secondHand: 1 },
        ];
        return saveHookup({ extras, pins: [] }, `${title}: done.`);
      }
      case 'slot':
      case 'converter': {
        const slot = change.kind === 'slot' ? change.slot : change.askId;
        return void save((newest) => {
          const old = newest.picks.find((k) => k.slot === slot);
          const next =
            change.kind === 'slot'
              ? {
                  slot,
                  partId: change.partId,
                  converterId: null,
                  reason: `${title}, so that every wire has a pin.`,
                }
              : { ...old!, converterId: change.converterId };
          const picks = [...newest.picks.filter((k) => k.slot !== slot), next];
          const hookup = { ...(newest.hookup ?? plan.hookup), pins: [] };
          const changed = planOf({ ...newest, picks, hookup }, plan.parts)!;
          return { picks, hookup, channels: linesForPicks(changed) };
        }, `${title}: done.`);
      }
    }
  };
  return (
    <div role="alert" className="rounded-box border border-error/60 bg-error/8 p-3 text-sm">
      {[...pins.conflicts, ...pins.unmet].map((text) => (
        <p key={text}>
          <span className="font-bold text-error" aria-hidden>
            ✕{' '}
          </span>
          {text}
        </p>
      ))}
      {pins.waysOut.length > 0 && (
        <>
          <p className="mt-2 font-semibold">Possible fixes, cheapest first</p>
          <ul className="mt-1 grid gap-1">
            {pins.waysOut.slice(0, 5).map((way) => (
              <li key={way.title} className="flex flex-wrap items-center gap-3">
                <span>
                  {way.title}{' '}
                  <span className="num muted">
                    {way.extraCost >= 0 ? '+' : '−'}
                    {Math.abs(way.extraCost).toFixed(2)}
                  </span>
                </span>
                <button type="button" className="btn btn-xs" disabled={saving} onClick={() => take(way)}>
                  Apply
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
      {pins.unmet.length > 0 && pins.waysOut.length === 0 && (
        <p className="mt-2">No single change fixes this: remove a part, or use two boards.</p>
      )}
    </div>
  );
}
