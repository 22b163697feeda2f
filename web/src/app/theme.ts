import { useSyncExternalStore } from 'react';

export type ThemeChoice = 'system' | 'dial' | 'night-dial';

const KEY = 'lucky-needle-theme';
const listeners = new Set<() => void>();
const dark = window.matchMedia?.('(prefers-color-scheme: dark)');
dark?.addEventListener?.('change', () => listeners.forEach((l) => l()));

export function storedTheme(): ThemeChoice {
  const value = localStorage.getItem(KEY);
  return value === 'dial' || value === 'night-dial' ? value : 'system';
}

export function applyTheme(choice: ThemeChoice): void {
  if (choice === 'system') {
    localStorage.removeItem(KEY);
    delete document.documentElement.dataset['theme'];
  } else {
    localStorage.setItem(KEY, choice);
    document.documentElement.dataset['theme'] = choice;
  }
  listeners.forEach((l) => l());
}

function shownTheme(): 'dial' | 'night-dial' {
  const choice = storedTheme();
  if (choice !== 'system') return choice;
  return dark?.matches ? 'night-dial' : 'dial';
}

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** The theme on screen; canvases redraw when it changes. */
export function useShownTheme(): 'dial' | 'night-dial' {
  return useSyncExternalStore(subscribe, shownTheme);
}

/** A colour of the theme as the canvas needs it. */
export function themeColor(name: string): string {
  return getComputedStyle(document.documentElement).getPropertyValue(`--color-${name}`).trim() || '#888888';
}
