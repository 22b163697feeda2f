import { useRef } from 'react';
import type { Gadget, Trial, TrialRule } from '@lucky-needle/core/model';
import { useAppDispatch } from '../../../app/store.ts';
import { toastShown } from '../../../app/toasts.ts';
import { saveText } from '../../../parts/saveText.ts';
import { trialsAsTable } from './trialsAsTable.ts';

interface Props {
  readonly gadget: Gadget;
  readonly rule: TrialRule;
  readonly trials: readonly Trial[];
}

/** Trials for other programs: as a table, as JSON, or copied to be pasted into a sheet. */
export function TrialsOut({ gadget, rule, trials }: Props) {
  const menu = useRef<HTMLDetailsElement>(null);
  const dispatch = useAppDispatch();
  const ways: readonly (readonly [name: string, act: () => void])[] = [
    ['Save as CSV', () => saveText(`${gadget.name} trials.csv`, 'text/csv', trialsAsTable(trials, ','))],
    [
      'Save as JSON',
      () =>
        saveText(
          `${gadget.name} trials.json`,
          'application/json',
          JSON.stringify({ gadget: gadget.name, rule, trials }, null, 2),
        ),
    ],
    [
      'Copy as table',
      () =>
        void navigator.clipboard.writeText(trialsAsTable(trials, '\t')).then(
          () => dispatch(toastShown({ text: `${trials.length} trials copied.`, tone: 'done' })),
          () =>
            dispatch(
              toastShown({ text: 'Your browser blocked copying. Save as a file instead.', tone: 'trouble' }),
            ),
        ),
    ],
  ];
  return (
    <details ref={menu} className="dropdown dropdown-end">
      <summary className="btn btn-ghost btn-sm">Export</summary>
      <ul className="menu dropdown-content z-10 w-44 rounded-box border border-base-300 bg-base-100 p-1 shadow">
        {ways.map(([name, act]) => (
          <li key={name}>
            <button
              type="button"
              onClick={() => {
                act();
                if (menu.current) menu.current.open = false;
              }}
            >
              {name}
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}
