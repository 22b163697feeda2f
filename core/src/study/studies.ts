import { checkParams } from '../stage/checkParams.ts';
import type { StudyAbout, StudyEvidence, StudyKind, StudyResult, StudySettings } from './kind.ts';
import { accuracy } from './kinds/accuracy.ts';
import { agreement } from './kinds/agreement.ts';
import { alarmTried } from './kinds/alarmTried.ts';
import { atRest } from './kinds/atRest.ts';
import { beforeAfter } from './kinds/beforeAfter.ts';
import { constantAssumed } from './kinds/constantAssumed.ts';
import { counting } from './kinds/counting.ts';
import { drift } from './kinds/drift.ts';
import { falseTriggers } from './kinds/falseTriggers.ts';
import { houseUnit } from './kinds/houseUnit.ts';
import { noise } from './kinds/noise.ts';
import { repeat } from './kinds/repeat.ts';
import { sampling } from './kinds/sampling.ts';
import { notShown } from './words.ts';

/** Every kind of study, in the order of what it weighs. A new one is one file and one line here. */
export const STUDIES: readonly StudyKind[] = [
  accuracy,
  agreement,
  counting,
  falseTriggers,
  alarmTried,
  noise,
  atRest,
  sampling,
  repeat,
  beforeAfter,
  drift,
  constantAssumed,
  houseUnit,
];

const BY_KIND = new Map(STUDIES.map((kind) => [kind.kind, kind]));

export const studyKindOf = (kind: string): StudyKind | undefined => BY_KIND.get(kind);

/** Settings of a kind as they can be kept. @throws {TypeError | RangeError} in words, where they cannot */
export function checkStudySettings(kind: StudyKind, settings: StudySettings): void {
  checkParams({ title: kind.title, params: kind.settings }, settings);
}

/** What a study comes to; evidence that cannot be worked with shows nothing, and says why. */
export function judgeStudy(
  kind: StudyKind,
  settings: StudySettings,
  evidence: StudyEvidence,
  about: StudyAbout,
): StudyResult {
  try {
    checkStudySettings(kind, settings);
    return kind.judge(settings, evidence, about);
  } catch (error) {
    if (!(error instanceof RangeError) && !(error instanceof TypeError)) throw error;
    return notShown(error.message, 'Correct the value named in the message.');
  }
}
