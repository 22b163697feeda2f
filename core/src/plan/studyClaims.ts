import type { JudgedStudy } from '../model/study.ts';
import type { Claim } from '../prove/claims.ts';
import { studyKindOf } from '../study/index.ts';

/** What studies of a gadget come to, as claims among the others. */
export function studyClaims(
  studies: readonly JudgedStudy[],
): { readonly channelId: string; readonly claim: Claim }[] {
  return studies.flatMap(({ study, card }) => {
    const title = studyKindOf(study.kind)?.claim;
    if (!title) return [];
    const claim: Claim = {
      id: `study-${study.id}`,
      title: `${title}${study.figureId === null ? '' : `, ${card.about}`}`,
      state: card.state,
      sentence: card.sentence,
      next: card.next,
      by: card.state === 'pass' ? null : 'study',
    };
    return [{ channelId: study.channelId, claim }];
  });
}
