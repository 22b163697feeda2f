import { useLampLightQuery } from '../../../api/trueUpApi.ts';

/** How often the page asks, ms. */
const ASK_MS = 700;

/** What the lamps give now, as the server sees them; asked once for all cards of a page. */
export const useLampLight = (gadgetId: string) => useLampLightQuery(gadgetId, { pollingInterval: ASK_MS });
