import { lazy, Suspense, type ComponentType } from 'react';
import { Link } from 'react-router';
import { assignPins, boardOf, busPlan, powerPlan, type GadgetPlan } from '@lucky-needle/core/plan';
import type { Hookup } from '@lucky-needle/core/model';
import { useAddressChoice } from '../../app/useAddressChoice.ts';
import { useBench } from '../../app/useBench.ts';
import { usePlan } from '../../app/useShelf.ts';
import { Cautions } from '../../parts/Cautions.tsx';
import { EmptyState } from '../../parts/EmptyState.tsx';
import { Glyph, type GlyphState } from '../../parts/Glyph.tsx';
import { Loading } from '../../parts/Loading.tsx';
import { PageHead } from '../../parts/PageHead.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { useSaveGadget } from '../../parts/useSaveGadget.ts';
import { BusTab } from './BusTab.tsx';
import type { HookupTabProps } from './tabProps.ts';
import { HelperTab } from './HelperTab.tsx';
import { LinkCard } from '../../parts/LinkCard.tsx';
import { PartsTab } from './PartsTab.tsx';
import { PowerTab } from './PowerTab.tsx';
import { SheetTab } from './SheetTab.tsx';

// The diagram's drawing library comes only with its tab.
const WiringTab = lazy(() => import('./WiringTab.tsx').then((m) => ({ default: m.WiringTab })));

interface Tab {
  readonly id: string;
  readonly title: string;
  readonly Body: ComponentType<HookupTabProps>;
  state(plan: GadgetPlan): GlyphState;
}

const TABS: readonly Tab[] = [
  {
    id: 'wiring',
    title: 'Pins and wires',
    Body: WiringTab,
    state(plan) {
      if (!plan.board) return 'open';
      const { conflicts, unmet } = assignPins(plan, plan.board);
      return conflicts.length + unmet.length > 0 ? 'trouble' : 'done';
    },
  },
  {
    id: 'bus',
    title: 'Bus and levels',
    Body: BusTab,
    state(plan) {
      if (!plan.board) return 'open';
      const bus = busPlan(plan);
      const bad =
        bus.addresses.clashes.length > 0 || bus.load.state === 'fail' || bus.pullUp.problem !== null;
      return bad || bus.crossings.some((c) => c.kind === 'harm')
        ? 'trouble'
        : bus.crossings.length > 0
          ? 'part'
          : 'done';
    },
  },
  {
    id: 'power',
    title: 'Power',
    Body: PowerTab,
    state(plan) {
      const power = powerPlan(plan);
      if (!power) return 'open';
      const wanted = plan.brief.enduranceH;
      const short = power.budget.runtimeH !== null && wanted !== null && power.budget.runtimeH < wanted;
      return power.budget.problems.length > 0 || short ? 'trouble' : 'done';
    },
  },
  { id: 'helper', title: 'Divider and filter', Body: HelperTab, state: () => 'done' },
  {
    id: 'parts',
    title: 'Parts and cost',
    Body: PartsTab,
    state: (plan) => (plan.gadget.picks.length > 0 ? 'done' : 'open'),
  },
  {
    id: 'sheet',
    title: 'Bring-up sheet',
    Body: SheetTab,
    state: (plan) => (plan.board ? 'done' : 'open'),
  },
];

/** Pins, buses, rails, cost, and what each wire should read at first power-up: all worked out from the picks. */
export function HookupPage() {
  const { gadget, link } = useBench();
  const plan = usePlan(gadget);
  const [asked, choose] = useAddressChoice('tab');
  const { save, saving, problem } = useSaveGadget(gadget);
  if (!plan)
    return (
      <>
        <PageHead title="Hook-up" subtitle="Wiring, power and expected readings" />
        <div className="grid items-start gap-4 xl:grid-cols-[1fr_21rem]">
          <EmptyState title="Write the brief first">
            The brief decides which parts fit, and the parts decide the wiring.{' '}
            <Link className="link link-primary" to="../brief" relative="path">
              Write the brief
            </Link>
          </EmptyState>
          <LinkCard gadget={gadget} link={link} />
        </div>
      </>
    );
  const tab = TABS.find((t) => t.id === asked) ?? TABS[0]!;
  const saveHookup = (change: Partial<Hookup>, done: string) =>
    void save((newest) => ({ hookup: { ...(newest.hookup ?? plan.hookup), ...change } }), done);
  return (
    <>
      <PageHead title="Hook-up" subtitle={subtitle(plan)}>
        <span className="print-only text-sm">{gadget.name}</span>
      </PageHead>
      <div role="group" aria-label="Sections of Hook-up" className="no-print mb-3 flex flex-wrap gap-1">
        {TABS.map((t) => {
          const state = t.state(plan);
          return (
            <button
              key={t.id}
              type="button"
              aria-pressed={t.id === tab.id}
              className={`btn btn-sm ${t.id === tab.id ? 'bg-base-content text-base-100' : ''}`}
              onClick={() => choose(t.id)}
            >
              {t.id !== 'helper' && <Glyph state={state} />}
              {t.title}
            </button>
          );
        })}
      </div>
      <ProblemNote problem={problem} />
      {!plan.board && (
        <div className="mb-4">
          <EmptyState title="No board picked">
            Until you pick one, the plan uses the {boardOf(plan).title} as a placeholder.{' '}
            <Link className="link link-primary" to="../pick?slot=board" relative="path">
              Pick a board
            </Link>
          </EmptyState>
        </div>
      )}
      <div className="grid items-start gap-4 xl:grid-cols-[1fr_19rem]">
        <div className="min-w-0">
          <Suspense fallback={<Loading what="the wiring" />}>
            <tab.Body gadget={gadget} plan={plan} saving={saving} saveHookup={saveHookup} />
          </Suspense>
        </div>
        <div className="no-print grid gap-4">
          <LinkCard gadget={gadget} link={link} />
          <Cautions gadget={gadget} />
        </div>
      </div>
    </>
  );
}

function subtitle(plan: GadgetPlan): string {
  const names = [plan.board, plan.display, plan.supply, plan.sounder].flatMap((p) => p?.title ?? []);
  return names.join(' · ') || 'Wiring, power and expected readings';
}
