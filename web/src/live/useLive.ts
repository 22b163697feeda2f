import { useSyncExternalStore } from 'react';
import { liveClient, type LiveSnapshot } from './liveClient.ts';

/** The newest readings and link state of the gadget on screen. */
export function useLive(): LiveSnapshot {
  return useSyncExternalStore(liveClient.subscribe, liveClient.current);
}
