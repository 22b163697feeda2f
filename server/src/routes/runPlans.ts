import { RunPlan, RunPlanAnswer } from '@lucky-needle/core/model';
import type { Route } from '../http/route.ts';
import type { Services } from '../services/services.ts';

/** Runs that begin and end by themselves. */
export function runPlanRoutes({ runPlans }: Services): Route[] {
  const path = '/api/gadgets/:id/run-plan';
  return [
    {
      method: 'get',
      path,
      summary: 'When runs of a gadget begin and end by themselves; null where nothing is planned',
      answer: RunPlanAnswer,
      handle: async (request) => ({ plan: await runPlans.find(request.params['id']!) }),
    },
    {
      method: 'put',
      path,
      summary: 'Plan runs: when the next begins, whether each day, and when runs end',
      body: RunPlan,
      answer: RunPlan,
      handle: (request) => runPlans.set(request.params['id']!, request.body as RunPlan),
    },
    {
      method: 'delete',
      path,
      summary: 'Plan no runs any more',
      status: 204,
      handle: (request) => runPlans.remove(request.params['id']!),
    },
  ];
}
