import type { Channel } from '../model/gadget.ts';

/** Channels of heated elements: each needs its own resistance in clean air, and one airing serves them all. */
export const heatedElements = (channels: readonly Channel[]): Channel[] =>
  channels.filter(
    ({ line }) =>
      line.sources.length === 1 && line.stages.some((s) => s.kind === 'ratio-to-baseline' && !s.off),
  );
