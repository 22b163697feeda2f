import type { Recording } from '@lucky-needle/core/model';

/** Whether a run can be taken as evidence: it is over, and counts. */
export const isTakable = (run: Recording) => run.state !== 'recording' && run.excluded === null;
