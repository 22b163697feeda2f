import type { Gadget } from '../../src/model/gadget.ts';
import { TEMPLATES } from '../../src/plan/index.ts';

/** The gadget of a family's template with a board picked, so that its clock is known. */
export function familyGadget(family: number): Gadget {
  const template = TEMPLATES.find((t) => t.family === family)!;
  return {
    ...template.make(),
    picks: [{ slot: 'board', partId: 'tiny-32-bit', converterId: null, reason: '' }],
    id: 'g',
    version: 1,
    name: '',
    template: template.id,
    createdAt: '',
    updatedAt: '',
  };
}
