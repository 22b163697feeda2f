import { daysFrom1970 } from '../units/dates.ts';

export interface DueState {
  /** The day from which it is overdue, such as 2026-04-30. */
  readonly dueOn: string;
  readonly overdue: boolean;
}

/** Until when what was checked on a day may be trusted: so many months after it, the last day of a shorter month. */
export function dueState(
  { checkedOn, goodForMonths }: { readonly checkedOn: string; readonly goodForMonths: number },
  today: string,
): DueState {
  const [year, month, day] = checkedOn.split('-').map(Number) as [number, number, number];
  const months = month - 1 + goodForMonths;
  const [y, m] = [year + Math.floor(months / 12), (months % 12) + 1];
  const daysInMonth =
    (m === 12 ? daysFrom1970(y + 1, 1, 1) : daysFrom1970(y, m + 1, 1)) - daysFrom1970(y, m, 1);
  const two = (v: number) => String(v).padStart(2, '0');
  const dueOn = `${y}-${two(m)}-${two(Math.min(day, daysInMonth))}`;
  return { dueOn, overdue: today >= dueOn };
}
