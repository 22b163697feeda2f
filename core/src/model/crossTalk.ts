import { Type, type Static } from 'typebox';
import { Id, strictObject } from './common.ts';
import { ReferenceInput } from './calibration.ts';

/** Keeps what all channels of a kind read while a known amount of one quantity is there: the server looks at them itself. */
export const NewExposure = strictObject({ channelId: Id, reference: ReferenceInput });
export type NewExposure = Static<typeof NewExposure>;

/** Takes off each channel what the others' quantities add to it: by kept exposures, and by what was typed in their place. */
export const NewCrossTalk = strictObject({
  channelIds: Type.Array(Id, { minItems: 2, maxItems: 16 }),
  typed: Type.Array(
    strictObject({
      on: Id,
      to: Id,
      answer: Type.Number({ minimum: -10, maximum: 10 }),
      u: Type.Number({ minimum: 0, maximum: 10 }),
    }),
    { maxItems: 240 },
  ),
});
export type NewCrossTalk = Static<typeof NewCrossTalk>;
