import { ProofAnswer } from '@lucky-needle/core/model';
import type { Route } from '../http/route.ts';
import type { Services } from '../services/services.ts';

/** What is shown of a brief. */
export function proofRoutes({ proof }: Services): Route[] {
  return [
    {
      method: 'get',
      path: '/api/gadgets/:id/proof',
      summary:
        'Whether the gadget meets its brief: every claim with its verdict and explanation, the weakest claim, and the next step',
      answer: ProofAnswer,
      handle: (request) => proof.of(request.params['id']!),
    },
  ];
}
