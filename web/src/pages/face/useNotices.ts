import { useEffect, useRef, useState } from 'react';
import type { AlarmLevel, AlarmRule, GadgetAlarms } from '@lucky-needle/core/model';

const WORDS: Readonly<Partial<Record<AlarmLevel, string>>> = { caution: 'Caution', limit: 'Limit' };

/** Whether this computer may be told; "unsupported" where the browser has no notices, as on an insecure address. */
export type NoticeState = 'unsupported' | NotificationPermission;

const stateNow = (): NoticeState =>
  typeof Notification === 'undefined' || !isSecureContext ? 'unsupported' : Notification.permission;

/** Tells on the desktop of alarms that come or go up, while it is wanted and this page is open, also in the background. */
export function useNotices(
  isWanted: boolean,
  gadgetName: string,
  rules: readonly AlarmRule[],
  alarms: GadgetAlarms | null,
): { readonly state: NoticeState; ask(): Promise<boolean> } {
  const [state, setState] = useState(stateNow);
  const told = useRef(new Map<string, AlarmLevel>());
  useEffect(() => {
    for (const { ruleId, level, isSeen } of alarms?.items ?? []) {
      const before = told.current.get(ruleId);
      told.current.set(ruleId, level);
      const rule = rules.find((r) => r.id === ruleId);
      const word = WORDS[level];
      const isNews = before !== level && !(before === 'limit' && level === 'caution') && !isSeen;
      if (isWanted && state === 'granted' && rule && word && isNews)
        new Notification(`${word}: ${rule.name}`, { body: gadgetName, tag: `${gadgetName} ${ruleId}` });
    }
  }, [alarms, isWanted, state, gadgetName, rules]);
  return {
    state,
    async ask() {
      const given = state === 'unsupported' ? state : await Notification.requestPermission();
      setState(given);
      return given === 'granted';
    },
  };
}
