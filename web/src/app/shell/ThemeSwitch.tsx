import { useState } from 'react';
import { applyTheme, storedTheme, type ThemeChoice } from '../theme.ts';

const NAMES: Record<ThemeChoice, string> = { system: 'system', dial: 'light', 'night-dial': 'dark' };
const NEXT: Record<ThemeChoice, ThemeChoice> = { system: 'dial', dial: 'night-dial', 'night-dial': 'system' };

export function ThemeSwitch() {
  const [choice, setChoice] = useState(storedTheme);
  return (
    <button
      type="button"
      className="rounded-field text-left text-xs opacity-80 hover:opacity-100"
      onClick={() => {
        applyTheme(NEXT[choice]);
        setChoice(NEXT[choice]);
      }}
    >
      Theme: {NAMES[choice]}
    </button>
  );
}
