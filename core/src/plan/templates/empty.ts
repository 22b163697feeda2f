import { HOME, type GadgetTemplate } from './template.ts';

/** One raw channel and no brief. */
export const empty: GadgetTemplate = {
  id: 'empty',
  family: null,
  title: 'Empty brief',
  summary: 'One raw channel; you decide what it measures',
  reasons: {},
  make: () => ({
    place: HOME,
    brief: null,
    picks: [],
    hookup: null,
    channels: [
      {
        id: 'c1',
        askId: 'a1',
        name: 'Channel 1',
        line: { sources: [{ column: 'c1', unit: 'count' }], stages: [] },
      },
    ],
    face: null,
    cautionsRead: [],
    sampleRateHz: 10,
  }),
};
