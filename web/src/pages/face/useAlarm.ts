import { useEffect, useRef, useState } from 'react';
import { QUIET, stepAlarm, type AlarmMemory } from '@lucky-needle/core/face';
import type { AlarmSpec } from '@lucky-needle/core/model';

export interface AlarmEvent {
  readonly at: number;
  readonly state: AlarmMemory['state'];
}

export function useAlarm(spec: AlarmSpec, value: number, timeS: number, active: boolean) {
  const memory = useRef<AlarmMemory>(QUIET);
  const [view, setView] = useState<{ memory: AlarmMemory; history: AlarmEvent[] }>({
    memory: QUIET,
    history: [],
  });
  useEffect(() => {
    if (!active) return;
    const next = stepAlarm(spec, memory.current, value, timeS);
    if (next.state === memory.current.state) return;
    memory.current = next;
    setView((v) => ({
      memory: next,
      history: [{ at: Date.now(), state: next.state }, ...v.history].slice(0, 6),
    }));
  }, [spec, value, timeS, active]);
  return view;
}
