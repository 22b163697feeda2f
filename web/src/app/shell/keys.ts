import { useEffect, useLayoutEffect, useRef } from 'react';

/** Whether the key was meant for a field, a button or a dialog, and not for the page. */
function belongsElsewhere(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement | null;
  if (event.ctrlKey || event.metaKey || event.altKey) return true;
  // No number has a space in it.
  if (event.key === ' ' && target?.matches('input[inputmode=decimal]')) return false;
  if (target?.closest('input, textarea, select, [contenteditable]')) return true;
  if (target?.closest('dialog')) return true;
  return (event.key === ' ' || event.key === 'Enter') && target?.closest('button, a, summary') !== null;
}

/** Calls the handler for a plain key that no field wants. */
export function useKey(key: string, handler: () => void, enabled = true): void {
  const latest = useRef(handler);
  // With what is drawn, not some time after it: a key that answers what is seen now must not meet the page of before.
  useLayoutEffect(() => {
    latest.current = handler;
  });
  useEffect(() => {
    if (!enabled) return;
    const listen = (event: KeyboardEvent) => {
      if (event.key !== key || event.repeat || belongsElsewhere(event)) return;
      event.preventDefault();
      latest.current();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [key, enabled]);
}
