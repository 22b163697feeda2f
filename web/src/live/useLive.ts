import { useSyncExternalStore } from 'react';
import { liveClient, type LiveSnapshot } from './liveClient.ts';

/** The newest readings and link state of the gadget on screen; what uses it is drawn anew ten times a second. */
export function useLive(): LiveSnapshot {
  return useSyncExternalStore(liveClient.subscribe, liveClient.current);
}

/** A part of it: what uses that is drawn anew only when the part has changed. */
export function useLiveOf<T>(part: (live: LiveSnapshot) => T): T {
  return useSyncExternalStore(liveClient.subscribe, () => part(liveClient.current()));
}
