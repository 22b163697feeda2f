/** Where a maker asks what slipped, when a number of a channel looks wrong. */
export const slipHref = (gadgetId: string, channelId: string) =>
  `/g/${gadgetId}/true-up?ch=${channelId}#slip`;
