import type { Gadget } from '../model/gadget.ts';
import type { JudgedStudy } from '../model/study.ts';
import type { Claim } from '../prove/claims.ts';
import { STUDIES } from '../study/index.ts';
import { figureBrief } from './shown.ts';
import { studyAbout } from './studyAbout.ts';
import { studyClaims } from './studyClaims.ts';
import { lowerFirst } from '../words/index.ts';

/** Kinds without which a count that the brief asks for is only said, and not shown. */
const OF_COUNTS = ['counting', 'false-triggers'];

/** All that is said of what a gadget's maker studied, and of what nobody has studied yet. */
export const studiedClaims = (gadget: Gadget, studies: readonly JudgedStudy[]) => [
  ...studyClaims(studies),
  ...wantedStudies(gadget, studies),
];

/** Studies that the brief cannot do without and that nobody has begun, as claims that are not shown. */
export function wantedStudies(
  gadget: Gadget,
  studies: readonly JudgedStudy[],
): { readonly channelId: string; readonly claim: Claim }[] {
  return gadget.channels.flatMap((channel) =>
    (channel.figures ?? []).flatMap((figure) => {
      const about = figureBrief(gadget, channel, figure) && studyAbout(gadget, channel.id, figure.id);
      if (!about?.isCount) return [];
      return STUDIES.filter(
        (kind) =>
          OF_COUNTS.includes(kind.kind) &&
          !studies.some(
            ({ study }) =>
              study.kind === kind.kind && study.channelId === channel.id && study.figureId === figure.id,
          ),
      ).map((kind) => ({
        channelId: channel.id,
        claim: {
          id: `study-wanted-${kind.kind}-${figure.id}` as const,
          title: `${kind.claim}, ${about.name}`,
          state: 'not shown' as const,
          sentence: 'Not tested yet.',
          next: `Start the study “${kind.title}”: ${lowerFirst(kind.needs)}`,
          by: 'new study' as const,
        },
      }));
    }),
  );
}
