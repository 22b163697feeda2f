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
      summary: 'Schedule of a gadget’s runs, or null if there is none',
      answer: RunPlanAnswer,
      handle: async (request) => ({ plan: await runPlans.find(request.params['id']!) }),
    },
    {
      method: 'put',
      path,
      summary: 'Set the schedule: next start, whether daily, and stop conditions',
      body: RunPlan,
      answer: RunPlan,
      handle: (request) => runPlans.set(request.params['id']!, request.body as RunPlan),
    },
    {
      method: 'delete',
      path,
      summary: 'Delete the schedule',
      status: 204,
      handle: (request) => runPlans.remove(request.params['id']!),
    },
  ];
}
