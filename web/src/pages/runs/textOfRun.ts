import { format } from 'date-fns';
import type { Recording } from '@lucky-needle/core/model';
import type { RunText } from '@lucky-needle/core/trial';

/** All that a run can be found by: its name, note, marks and date, as it is shown and as it is sorted. */
export function textOfRun({ id, name, note, markers, excluded, startedAt }: Recording): RunText {
  const date = format(new Date(startedAt), 'd MMM yyyy, HH:mm yyyy-MM-dd EEEE');
  return { id, text: [name, note, excluded ?? '', ...markers.map((m) => m.text), date].join(' ') };
}
