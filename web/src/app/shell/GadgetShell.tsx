import { Menu } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { Outlet, useNavigate, useParams } from 'react-router';
import { api, tagsOf, TAGS } from '../../api/api.ts';
import { useGadgetQuery } from '../../api/gadgetApi.ts';
import { useLinkQuery } from '../../api/linkApi.ts';
import { useRecordingsQuery } from '../../api/runApi.ts';
import { useStudiesQuery } from '../../api/studyApi.ts';
import { useCalibrationsQuery, useEvidenceQuery, usePointsQuery } from '../../api/trueUpApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { liveClient } from '../../live/liveClient.ts';
import { useLiveOf } from '../../live/useLive.ts';
import { useProof } from '../../live/useProof.ts';
import { Loading } from '../../parts/Loading.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { NotFound } from '../NotFound.tsx';
import { stepsOf } from '../steps.ts';
import { useAppDispatch } from '../store.ts';
import type { BenchContext } from '../useBench.ts';
import { usePlan } from '../useShelf.ts';
import { FootLine } from './FootLine.tsx';
import { useKey } from './keys.ts';
import { StepRail } from './StepRail.tsx';

/** Everything around the pages of one gadget: rail, foot line, its data, its live readings. */
export function GadgetShell() {
  const { gadgetId = '' } = useParams();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const [railOpen, setRailOpen] = useState(false);
  const gadget = useGadgetQuery(gadgetId);
  const points = usePointsQuery(gadgetId);
  const evidence = useEvidenceQuery(gadgetId);
  const calibrations = useCalibrationsQuery(gadgetId);
  const recordings = useRecordingsQuery(gadgetId);
  const studies = useStudiesQuery(gadgetId);
  const link = useLinkQuery(gadgetId);
  const connected = useLiveOf((live) => live.connected);
  useKey('w', () => void navigate('/'));

  useEffect(() => {
    liveClient.onChanged = (what) => dispatch(api.util.invalidateTags(tagsOf(what)));
    liveClient.watch(gadgetId);
  }, [gadgetId, dispatch]);
  // After the server was away, what it told before may be old.
  useEffect(() => {
    if (connected) dispatch(api.util.invalidateTags([...TAGS]));
  }, [connected, dispatch]);

  const proof = useProof(gadgetId, Boolean(gadget.data?.brief));
  const bench = useMemo<BenchContext | null>(
    () =>
      gadget.data &&
      points.data &&
      evidence.data &&
      calibrations.data &&
      recordings.data &&
      link.data !== undefined
        ? {
            gadget: gadget.data,
            points: points.data,
            evidence: evidence.data,
            calibrations: calibrations.data,
            recordings: recordings.data.items,
            // Working them out may take a while: the pages do not wait for it.
            studies: studies.data ?? NO_STUDIES,
            proof,
            link: link.data,
          }
        : null,
    [
      gadget.data,
      points.data,
      evidence.data,
      calibrations.data,
      recordings.data,
      studies.data,
      proof,
      link.data,
    ],
  );
  const plan = usePlan(gadget.data);
  const steps = useMemo(() => bench && stepsOf(bench, plan), [bench, plan]);

  const problem = problemOf(
    gadget.error ?? points.error ?? evidence.error ?? calibrations.error ?? recordings.error ?? studies.error,
  );
  if (problem?.code === 'not-found') return <NotFound />;
  if (!bench || !steps) {
    return (
      <main className="p-6">
        {problem ? <ProblemNote problem={problem} /> : <Loading what="the gadget" />}
      </main>
    );
  }
  return (
    <div className="flex min-h-dvh bg-base-200">
      {railOpen && (
        <div
          className="fixed inset-0 z-20 bg-black/40 lg:hidden"
          onClick={() => setRailOpen(false)}
          aria-hidden
        />
      )}
      <StepRail
        gadgetId={gadgetId}
        gadgetName={bench.gadget.name}
        steps={steps}
        open={railOpen}
        onClose={() => setRailOpen(false)}
      />
      <div className="flex min-w-0 grow flex-col">
        <div className="no-print flex items-center gap-2 bg-neutral px-3 py-2 text-neutral-content lg:hidden">
          <button
            type="button"
            className="btn btn-ghost btn-sm text-neutral-content"
            onClick={() => setRailOpen(true)}
            aria-label="Open the step menu"
          >
            <Menu className="size-5" aria-hidden />
          </button>
          <span className="truncate text-sm font-semibold">{bench.gadget.name}</span>
        </div>
        <main id="main" tabIndex={-1} className="grow p-4 lg:px-6 lg:py-4">
          {problem && <ProblemNote problem={problem} />}
          <Outlet context={bench} />
        </main>
        <FootLine link={bench.link} />
      </div>
    </div>
  );
}

const NO_STUDIES: BenchContext['studies'] = [];
