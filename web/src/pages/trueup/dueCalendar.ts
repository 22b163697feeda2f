import { format } from 'date-fns';
import { writeCalendar } from '@lucky-needle/core/formats';
import type { Calibration } from '@lucky-needle/core/model';

/** A calendar file with the day on which a calibration is due for a check. Kept apart: its library comes only when asked for. */
export function dueCalendar(calibration: Calibration, name: string, due: Date): string {
  const made = format(new Date(calibration.createdAt), 'd MMM yyyy');
  return writeCalendar(
    [
      {
        uid: `calibration-${calibration.id}@lucky-needle`,
        dueS: due.getTime() / 1000,
        summary: `True up ${name}`,
        description: `Calibration ${calibration.number}, ${calibration.result.title}, of ${made} is due for a check.`,
      },
    ],
    Date.now() / 1000,
  );
}
