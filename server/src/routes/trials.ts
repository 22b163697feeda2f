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
        'Trials of all runs that count, oldest first, with figures: by the rule that is kept, or one that is tried, with what counts as it is stored or as it is tried; or how much is done: then ask again',
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
      summary: 'How runs are cut into trials',
      body: TrialRule,
      answer: TrialRule,
      handle: (request) => trials.setRule(request.params['id']!, request.body as TrialRule),
    },
    {
      method: 'post',
      path: '/api/recordings/:id/alarm-trial',
      summary:
        'What an alarm would have done on a run whose marks say when something truly was: caught, missed, for nothing, how late, at its own level and at others; or how much is done: then ask again',
      body: AlarmTrialBody,
      answer: AlarmTrialAnswer,
      handle: (request) => alarmTrials.look(request.params['id']!, request.body as AlarmTrialBody),
    },
    {
      method: 'put',
      path: '/api/recordings/:id/trial-note',
      summary: 'Label, note and why one does not count, of the trial of a run between two moments',
      body: TrialNoteBody,
      answer: TrialNote,
      handle: (request) => trials.note(request.params['id']!, request.body as TrialNoteBody),
    },
  ];
}
