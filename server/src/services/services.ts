import { recordingReadings } from '../readings/recordingReadings.ts';
import type { OpenDatabase } from '../db/open.ts';
import type { Bench } from './bench.ts';
import { workspaceService } from './workspace.ts';
import { airingService } from './airing.ts';
import { alarmTrialsService } from './alarmTrials.ts';
import { countsService } from './counts.ts';
import { crossTalkService } from './crossTalk.ts';
import { cutService } from './cuts.ts';
import { damagedService } from './damaged.ts';
import { faceFramesService } from './faceFrames.ts';
import { faceHeaderService } from './faceHeader.ts';
import { gadgetService } from './gadgets.ts';
import { importService } from './imports.ts';
import { Jobs } from './jobs.ts';
import { lampLightService } from './lampLight.ts';
import { linkService } from './links.ts';
import { liveService } from './live.ts';
import { gatheringService } from './gatherings.ts';
import { guidedTrueUpService } from './guidedTrueUp.ts';
import { ownReferencesService } from './ownReferences.ts';
import { partsService } from './parts.ts';
import { proofService } from './proof.ts';
import { readingsService } from './readings.ts';
import { recordingService } from './recordings.ts';
import { runPlansService } from './runPlans.ts';
import { studiesService } from './studies.ts';
import { streamLookService } from './streamLook.ts';
import { trialsService } from './trials.ts';
import { trueUpService } from './trueUp.ts';

export function createServices(bench: Bench, database: OpenDatabase) {
  const trueUp = trueUpService(bench);
  const jobs = new Jobs();
  const recordings = recordingService(bench);
  const runPlans = runPlansService(bench, recordings);
  // One for all: two that make the same view would write over each other.
  const views = recordingReadings(bench.knex);
  const readings = readingsService(bench, views);
  const studies = studiesService(bench, views);
  const live = liveService(bench);
  const gatherings = gatheringService(bench);
  const gadgets = gadgetService(bench, gatherings.forget);
  return {
    gadgets,
    links: linkService(bench),
    live,
    faceFrames: faceFramesService(bench),
    faceHeader: faceHeaderService(bench, live.now),
    proof: proofService(bench, studies),
    studies,
    parts: partsService(bench),
    ownReferences: ownReferencesService(bench),
    trueUp,
    guidedTrueUp: guidedTrueUpService(bench, trueUp, gadgets.patch),
    gatherings,
    airing: airingService(bench, trueUp),
    lampLight: lampLightService(bench, gadgets.patch),
    streamLook: streamLookService(bench),
    crossTalk: crossTalkService(bench, gadgets.patch),
    recordings,
    readings,
    counts: countsService(bench),
    trials: trialsService(bench),
    alarmTrials: alarmTrialsService(bench),
    runPlans,
    jobs,
    workspace: workspaceService(bench, database, async () => {
      await readings.forgetAll();
      await recordings.recover();
      runPlans.forget();
    }),
    imports: importService(bench, jobs, recordings.blank),
    cuts: cutService(bench),
    damaged: damagedService(bench),
  };
}

export type Services = ReturnType<typeof createServices>;
