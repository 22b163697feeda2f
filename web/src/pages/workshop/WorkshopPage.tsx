import { Trash2 } from 'lucide-react';
import { lazy, Suspense } from 'react';
import { Link, useNavigate } from 'react-router';
import type { Gadget } from '@lucky-needle/core/model';
import { briefInWords } from '@lucky-needle/core/plan';
import { useDeleteGadgetMutation, useGadgetsQuery, useLoadMillMutation } from '../../api/gadgetApi.ts';
import { useLinkQuery } from '../../api/linkApi.ts';
import { useCalibrationsQuery } from '../../api/trueUpApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { Brand } from '../../app/shell/Brand.tsx';
import { ThemeSwitch } from '../../app/shell/ThemeSwitch.tsx';
import { useAppDispatch } from '../../app/store.ts';
import { toastShown } from '../../app/toasts.ts';
import { DamagedRows } from '../../parts/DamagedRows.tsx';
import { Glyph } from '../../parts/Glyph.tsx';
import { Loading } from '../../parts/Loading.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { guidedFor } from '../trueup/guided/guidedFor.ts';
import { BackupCard } from './BackupCard.tsx';
import { DueCard } from './DueCard.tsx';
import { LINK_WORDS, lowerFirst } from '@lucky-needle/core/words';

/** What it can start from is half of the program: the workshop stands before that has come. */
const StartGadget = lazy(async () => ({ default: (await import('./StartGadget.tsx')).StartGadget }));

/** The gadgets at hand, and where a new one starts. */
export function WorkshopPage() {
  const { data, error, isLoading } = useGadgetsQuery();
  return (
    <div className="flex min-h-dvh flex-col bg-base-200">
      <header className="rail flex flex-wrap items-center justify-between gap-y-1 bg-neutral px-5 py-4 text-neutral-content lg:px-10">
        <Brand />
        <div className="flex flex-wrap items-center gap-x-2">
          <Link to="/wall" className="btn btn-ghost btn-sm text-neutral-content">
            Wall view
          </Link>
          <Link to="/shelf" className="btn btn-ghost btn-sm text-neutral-content">
            Shelf
          </Link>
          <Link to="/help" className="btn btn-ghost btn-sm text-neutral-content">
            Help
          </Link>
          <ThemeSwitch />
        </div>
      </header>
      <main id="main" tabIndex={-1} className="mx-auto w-full max-w-7xl grow p-5 lg:px-10 lg:py-8">
        {isLoading && <Loading what="the workshop" />}
        {error && <ProblemNote problem={problemOf(error)} />}
        <DamagedRows />
        {data && (data.total === 0 ? <EmptyWorkshop /> : <Gadgets gadgets={data.items} />)}
      </main>
    </div>
  );
}

function EmptyWorkshop() {
  return (
    <div className="grid gap-8 lg:grid-cols-[1.1fr_1fr]">
      <section>
        <h1>What do you want to measure?</h1>
        <p className="muted mt-3 max-w-prose">
          You have no gadgets yet. Create one: say what it must measure and how accurately, and every later
          step (choosing parts, wiring, signal line, calibration, proof) builds on that.
        </p>
        <p className="muted mt-3 max-w-prose">
          Or look around first: Quillmere Mill is a fictional watermill with fourteen finished gadgets, each
          with a simulated board that sends readings.
        </p>
        <LoadMill primary />
      </section>
      <div className="grid content-start gap-4">
        <Suspense fallback={<StartComes />}>
          <StartGadget />
        </Suspense>
        <BackupCard />
      </div>
    </div>
  );
}

const StartComes = () => (
  <section className="panel min-h-104">
    <h2>New gadget</h2>
    <Loading what="templates" />
  </section>
);

function Gadgets({ gadgets }: { gadgets: Gadget[] }) {
  return (
    <div className="grid items-start gap-8 lg:grid-cols-[1fr_20rem]">
      <section>
        <h1 className="mb-4">Workshop</h1>
        <ul className="grid gap-3 xl:grid-cols-2">
          {gadgets.map((gadget) => (
            <GadgetCard key={gadget.id} gadget={gadget} />
          ))}
        </ul>
      </section>
      <div className="grid gap-4 lg:mt-12">
        <DueCard />
        <Suspense fallback={<StartComes />}>
          <StartGadget />
        </Suspense>
        {!gadgets.some((g) => g.place.name.startsWith('Quillmere')) && (
          <section className="panel">
            <h2>Look around first</h2>
            <p className="muted mt-1 text-sm">
              The demo gadgets are added to yours. You can delete them at any time.
            </p>
            <LoadMill />
          </section>
        )}
        <BackupCard />
      </div>
    </div>
  );
}

function GadgetCard({ gadget }: { gadget: Gadget }) {
  const { data: link } = useLinkQuery(gadget.id);
  const { data: calibrations } = useCalibrationsQuery(gadget.id);
  const [remove] = useDeleteGadgetMutation();
  const dispatch = useAppDispatch();
  const { brief } = gadget;
  const inUse = calibrations?.filter((c) => c.state === 'in use').length ?? 0;
  const { next, nextPath } = nextStep(gadget, inUse);
  const nextChannel = gadget.channels.find(
    (c) => !calibrations?.some((k) => k.channelId === c.id && k.state === 'in use'),
  );
  return (
    <li className="panel grid gap-2">
      <div className="flex items-start justify-between gap-2">
        <div className="min-w-0">
          <Link
            to={`/g/${gadget.id}/brief`}
            className="rounded-field font-display text-lg font-semibold hover:underline"
          >
            {gadget.name}
          </Link>
          <p className="muted text-sm">{gadget.place.name}</p>
        </div>
        <button
          type="button"
          className="btn btn-ghost btn-sm -mr-2"
          aria-label={`Delete ${gadget.name}`}
          title={`Delete ${gadget.name}`}
          onClick={async () => {
            const result = await remove(gadget.id);
            dispatch(
              result.error
                ? toastShown({ text: problemOf(result.error)!.detail, tone: 'trouble' })
                : toastShown({ text: `Deleted ${gadget.name}.`, tone: 'done', restoreGadgetId: gadget.id }),
            );
          }}
        >
          <Trash2 className="size-4" aria-hidden />
        </button>
      </div>
      <p className="num text-sm">{brief ? briefInWords(brief) : 'no brief yet'}</p>
      <dl className="flex flex-wrap gap-x-6 gap-y-1 text-sm">
        <div className="flex items-center gap-2">
          <dt className="muted">Link</dt>
          <dd className="flex items-center gap-2">
            <Glyph state={link?.state === 'up' ? 'done' : link ? 'trouble' : 'open'} />{' '}
            {link ? (link.state === 'up' ? link.name : `${link.name}, ${LINK_WORDS[link.state]}`) : 'none'}
          </dd>
        </div>
        <div className="flex items-center gap-2">
          <dt className="muted">Calibrated</dt>
          <dd className="flex items-center gap-2">
            <Glyph state={inUse === gadget.channels.length ? 'done' : inUse > 0 ? 'part' : 'open'} /> {inUse}{' '}
            of {gadget.channels.length}
          </dd>
        </div>
      </dl>
      <p className="text-sm">
        Next:{' '}
        <Link
          className="link link-primary"
          to={`/g/${gadget.id}/${nextPath}${nextPath === 'true-up' && nextChannel ? `?ch=${nextChannel.id}` : ''}`}
        >
          {next}
        </Link>
      </p>
    </li>
  );
}

/** What a gadget waits for, in the order of the job. */
function nextStep(gadget: Gadget, inUse: number): { next: string; nextPath: string } {
  const { brief, picks, channels } = gadget;
  if (!brief) return { next: 'write the brief', nextPath: 'brief' };
  const open = brief.asks.find((a) => a.measurand !== 'worked out' && !picks.some((k) => k.slot === a.id));
  if (open) return { next: `pick a sensor for ${lowerFirst(open.quantity)}`, nextPath: 'pick' };
  if (!picks.some((k) => k.slot === 'board')) return { next: 'pick a board', nextPath: 'pick?slot=board' };
  const canBeTrued = channels.some((c) => c.line.sources.length === 1 || guidedFor(c.line) !== null);
  if (inUse < channels.length && canBeTrued)
    return {
      next:
        channels.length === 1
          ? 'calibrate it'
          : `calibrate ${channels.length - inUse} of ${channels.length} channels`,
      nextPath: 'true-up',
    };
  return { next: 'prove it', nextPath: 'prove' };
}

function LoadMill({ primary = false }: { primary?: boolean }) {
  const [load, { isLoading, error }] = useLoadMillMutation();
  const navigate = useNavigate();
  return (
    <div className="mt-4 grid gap-3">
      <button
        type="button"
        className={`btn justify-self-start ${primary ? 'btn-primary' : 'btn-sm'}`}
        disabled={isLoading}
        onClick={async () => {
          const result = await load();
          if (result.data) await navigate(`/g/${result.data.id}/true-up`);
        }}
      >
        {isLoading ? 'Loading demo…' : 'Load the Quillmere Mill demo'}
      </button>
      <ProblemNote problem={problemOf(error)} />
    </div>
  );
}
