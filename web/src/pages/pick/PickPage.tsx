import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import type { Gadget, Pick } from '@lucky-needle/core/model';
import {
  linesForPicks,
  planOf,
  processingChoice,
  rankSlot,
  WEIGHTS,
  type Candidate,
  type GadgetPlan,
  type Weights,
} from '@lucky-needle/core/plan';
import { UNITS } from '@lucky-needle/core/units';
import { useAddressChoice } from '../../app/useAddressChoice.ts';
import { useBench } from '../../app/useBench.ts';
import { usePlan } from '../../app/useShelf.ts';
import { Cautions } from '../../parts/Cautions.tsx';
import { EmptyState } from '../../parts/EmptyState.tsx';
import { PageHead } from '../../parts/PageHead.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { useSaveGadget } from '../../parts/useSaveGadget.ts';
import { CandidateCard } from './CandidateCard.tsx';
import { ComparePanel } from './ComparePanel.tsx';
import { FailedRow } from './FailedRow.tsx';
import { SlotTabs, slotsOf } from './SlotTabs.tsx';
import { WeightsPanel } from './WeightsPanel.tsx';
import { PresentPick } from './PresentPick.tsx';
import { counted } from '@lucky-needle/core/words';

const keyOf = (c: Candidate) => `${c.part.id}/${c.converter?.id ?? ''}`;

/** What the shelf offers for each thing to pick, judged against the brief; what cannot work below the line with its reason. */
export function PickPage() {
  const { gadget } = useBench();
  const plan = usePlan(gadget);
  if (!plan)
    return (
      <>
        <PageHead title="Pick" subtitle="Parts that meet the brief" />
        <EmptyState title="Write the brief first">
          Parts are judged by the range, the tolerance and the fastest change in the brief.{' '}
          <Link className="link link-primary" to="../brief" relative="path">
            Write the brief
          </Link>
        </EmptyState>
      </>
    );
  return <PickForPlan plan={plan} gadget={gadget} />;
}

function PickForPlan({ plan, gadget }: { plan: GadgetPlan; gadget: Gadget }) {
  const [asked, choose] = useAddressChoice('slot');
  const slots = slotsOf(plan);
  // What no gadget can do without comes first; a sounder is extra.
  const open = slots.find((s) => s.id !== 'sounder' && !gadget.picks.some((k) => k.slot === s.id));
  // What the maker came to stays in view once it is picked.
  const [first] = useState((open ?? slots[0]!).id);
  const slot = slots.find((s) => s.id === (asked ?? first)) ?? slots[0]!;
  const [weights, setWeights] = useState<Weights>(WEIGHTS);
  // Reasons typed and not saved yet, by slot: a look at another slot loses none.
  const [typed, setTyped] = useState<Readonly<Record<string, string>>>({});
  return (
    <>
      <PageHead title="Pick" subtitle={subtitle(plan, slot.id)}>
        <Link className="btn btn-ghost btn-sm" to="/shelf">
          Go to Shelf
        </Link>
      </PageHead>
      <SlotTabs slots={slots} present={slot.id} gadget={gadget} choose={choose} />
      <SlotPage
        key={slot.id}
        plan={plan}
        gadget={gadget}
        slot={slot.id}
        weights={weights}
        onWeights={setWeights}
        reason={typed[slot.id] ?? gadget.picks.find((k) => k.slot === slot.id)?.reason ?? ''}
        onReason={(reason) => setTyped((before) => ({ ...before, [slot.id]: reason }))}
      />
    </>
  );
}

function subtitle(plan: GadgetPlan, slot: string): string {
  const sensing = plan.sensing.find((s) => s.ask.id === slot);
  const on = plan.board ? `, on the ${plan.board.title}` : '';
  if (!sensing) return `Must fit the parts already picked${on}`;
  const { low, high, unit, tolerance, quantity } = sensing.brief;
  const n = sensing.channels.length;
  return `${quantity}: ${sensing.ask.sensed ? 'sensor range ' : ''}${low} to ${high} ${UNITS[unit].symbol}, ±${tolerance}, ${counted(n, 'channel')}${on}`;
}

interface SlotProps {
  readonly plan: GadgetPlan;
  readonly gadget: Gadget;
  readonly slot: string;
  readonly weights: Weights;
  onWeights(weights: Weights): void;
  readonly reason: string;
  onReason(reason: string): void;
}

function SlotPage({ plan, gadget, slot, weights, onWeights, reason, onReason }: SlotProps) {
  const { save, saving, problem } = useSaveGadget(gadget);
  const pick = gadget.picks.find((k) => k.slot === slot) ?? null;
  const [compared, setCompared] = useState<readonly string[]>([]);
  const ranked = useMemo(() => rankSlot(plan, slot, weights), [plan, slot, weights]);
  const good = ranked.filter((c) => !c.failed);
  const failed = ranked.filter((c) => c.failed);
  const parts = [...new Set(good.map((c) => c.part.id))];
  const checks = useMemo(
    () => [...new Map(ranked.flatMap((c) => c.verdicts.map((v) => [v.check, v.title] as const)))],
    [ranked],
  );
  const own = processingChoice(ranked.filter((c) => c.part.kind === 'sensor') as never);
  const comparing = compared.flatMap((key) => ranked.find((c) => keyOf(c) === key) ?? []);
  const toggle = (key: string) =>
    setCompared((now) => (now.includes(key) ? now.filter((k) => k !== key) : [...now, key].slice(-3)));

  const choose = ({ part, converter }: Candidate) => {
    const next: Pick = {
      slot,
      partId: part.id,
      converterId: converter?.id ?? null,
      reason: reason.trim(),
    };
    void save((newest) => {
      const picks = [...newest.picks.filter((k) => k.slot !== slot), next];
      const changed = planOf({ ...newest, picks }, plan.parts)!;
      return { picks, channels: linesForPicks(changed) };
    }, `Picked ${part.title}.`);
  };
  const isPicked = (c: Candidate) =>
    pick?.partId === c.part.id && pick.converterId === (c.converter?.id ?? null);

  return (
    <div className="grid items-start gap-4 xl:grid-cols-[1fr_18rem]">
      <div>
        <ProblemNote problem={problem} />
        {plan.lost.length > 0 && (
          <p role="alert" className="mb-3 rounded-box border border-warning/60 bg-warning/8 p-3 text-sm">
            No longer on the shelf: {plan.lost.join(', ')}. Put the part back on the shelf, or pick another
            one.
          </p>
        )}
        {ranked.length === 0 ? (
          <EmptyState title="No part on the shelf measures this">
            Add your own part to{' '}
            <Link className="link link-primary" to="/shelf">
              the shelf
            </Link>
            , or change what the sensor measures in the brief.
          </EmptyState>
        ) : (
          <>
            <WeightsPanel checks={checks} weights={weights} onChange={onWeights} />
            {comparing.length > 0 && <ComparePanel candidates={comparing} onClose={() => setCompared([])} />}
            <div className="grid gap-3">
              {parts.length === 0 && (
                <p className="panel text-sm">
                  <strong>No part on the shelf meets these requirements.</strong> See below why each part
                  fails and what would have to change.
                </p>
              )}
              {parts.map((id, i) => {
                const ways = good.filter((c) => c.part.id === id);
                return (
                  <CandidateCard
                    key={`${id}/${pick?.partId === id ? (pick.converterId ?? '') : 'x'}`}
                    ways={ways}
                    rank={i + 1}
                    pickedThrough={pick?.partId === id && ways.some(isPicked) ? pick.converterId : undefined}
                    saving={saving}
                    compared={ways.some((w) => compared.includes(keyOf(w)))}
                    onPick={choose}
                    onCompare={(c) => {
                      const old = ways.find((w) => compared.includes(keyOf(w)));
                      toggle(keyOf(old ?? c));
                    }}
                  />
                );
              })}
            </div>
            {failed.length > 0 && (
              <>
                <div className="my-4 flex items-center gap-3" role="separator">
                  <span className="h-0.5 grow bg-error/60" />
                  <span className="text-sm font-semibold text-error">These parts cannot meet the brief</span>
                  <span className="h-0.5 grow bg-error/60" />
                </div>
                <div className="grid gap-2">
                  {failed.map((c) => (
                    <FailedRow
                      key={keyOf(c)}
                      candidate={c}
                      picked={isPicked(c)}
                      saving={saving}
                      compared={compared.includes(keyOf(c))}
                      onPick={() => choose(c)}
                      onCompare={() => toggle(keyOf(c))}
                    />
                  ))}
                </div>
              </>
            )}
          </>
        )}
      </div>
      <div className="grid gap-4">
        <PresentPick
          plan={plan}
          gadget={gadget}
          slot={slot}
          pick={pick}
          reason={reason}
          onReason={onReason}
        />
        {own && (
          <section className="panel">
            <h2>Processed on the module, or raw values?</h2>
            <p className="mt-2 text-sm">{own.own}</p>
            <p className="mt-2 text-sm">{own.raw}</p>
          </section>
        )}
        <Cautions gadget={gadget} />
      </div>
    </div>
  );
}
