import {
  AlarmTrialAnswer,
  AlarmTrialBody,
  TrialNote,
  TrialNoteBody,
  TrialRule,
  TrialsAnswer,
  TrialsBody,
} from '@lucky-needle/core/model';
import type { Route } from '../http/route.ts';
import type { Services } from '../services/services.ts';

/** Runs as experiments: trials, with what was made of each and what their maker says of them. */
export function trialRoutes({ trials, alarmTrials }: Services): Route[] {
  return [
    {
      method: 'post',
      path: '/api/gadgets/:id/trials',
      summary:
        'Trials of all included runs, oldest first, with results, using the stored trial rule and event detectors or other ones, or the progress so far: repeat the request until it is complete',
      body: TrialsBody,
      answer: TrialsAnswer,
      handle: (request) => {
        const { rule, watches } = request.body as TrialsBody;
        return trials.look(request.params['id']!, rule, watches);
      },
    },
    {
      method: 'put',
      path: '/api/gadgets/:id/trial-rule',
      summary: 'Set how runs are split into trials',
      body: TrialRule,
      answer: TrialRule,
      handle: (request) => trials.setRule(request.params['id']!, request.body as TrialRule),
    },
    {
      method: 'post',
      path: '/api/recordings/:id/alarm-trial',
      summary:
        'Test an alarm on a run whose markers give the actual events: caught, missed, false alarms and delay, at the set level and at others, or the progress so far: repeat the request until it is complete',
      body: AlarmTrialBody,
      answer: AlarmTrialAnswer,
      handle: (request) => alarmTrials.look(request.params['id']!, request.body as AlarmTrialBody),
    },
    {
      method: 'put',
      path: '/api/recordings/:id/trial-note',
      summary: 'Set label, note and exclusion reason of a trial, given by its start and end in the run',
      body: TrialNoteBody,
      answer: TrialNote,
      handle: (request) => trials.note(request.params['id']!, request.body as TrialNoteBody),
    },
  ];
}
