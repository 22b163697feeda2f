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
        'Whether a gadget keeps what its brief asks: every claim with its state and sentence, what is weakest, and what to do next',
      answer: ProofAnswer,
      handle: (request) => proof.of(request.params['id']!),
    },
  ];
}
