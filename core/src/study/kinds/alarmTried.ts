import { Type } from 'typebox';
import { caughtShare, falseCounts } from '../../prove/counting.ts';
import { number } from '../../stage/params.ts';
import { printNumber, printSignificant } from '../../units/index.ts';
import { studyKind, type StudyResult, type StudyRow } from '../kind.ts';
import { axis, columnOf, fact, notShown, passes, watchedFor } from '../words.ts';
import { counted } from '../../words/index.ts';

/** An alarm on runs of which it is known what truly was: what it caught, how late, and how often it came for nothing. */
export const alarmTried = studyKind<{ caughtPercent: number; allowedPerHour: number }>({
  kind: 'alarm-tried',
  title: 'Alarm test',
  question: 'Does the alarm trigger when it should, and only then?',
  needs:
    'Runs with markers at the actual events, and uneventful runs; the Face page tests the alarm on each.',
  claim: 'The alarm triggers when it should, and only then',
  settings: Type.Object({
    caughtPercent: number('Minimum share caught', { above: 0, max: 99.9, unit: '%' }),
    allowedPerHour: number('Maximum false alarms per hour', { above: 0, max: 100_000 }),
  }),
  begin: () => ({ caughtPercent: 80, allowedPerHour: 1 }),
  inUnit: [],
  columns: [
    { id: 'alarm', title: 'Alarm', holds: 'text' },
    { id: 'level', title: 'Settings', holds: 'text' },
    { id: 'was', title: 'Actual events', holds: 'count' },
    { id: 'caught', title: 'Caught', holds: 'count' },
    { id: 'nothing', title: 'False alarms', holds: 'count' },
    { id: 'minutes', title: 'Time without events', holds: 'number', unit: 'min' },
    { id: 'late', title: 'Delay', holds: 'number', unit: 's', optional: true },
  ],
  takes: null,
  suits: () => true,
  judge({ caughtPercent, allowedPerHour }, { rows }): StudyResult {
    const newest = rows.at(-1);
    if (!newest)
      return notShown(
        'The alarm has not been tested on a run.',
        'Test it on a run on the Face page, and save the result as evidence.',
      );
    // What was tried at another level says nothing of this one.
    const isSame = (r: StudyRow) =>
      r.values['alarm'] === newest.values['alarm'] && r.values['level'] === newest.values['level'];
    const some = rows.filter(isSame);
    const sum = (id: string) => columnOf(some, id).reduce((a, b) => a + b, 0);
    const [was, caught, nothing, minutes] = [sum('was'), sum('caught'), sum('nothing'), sum('minutes')];
    const share = was > 0 ? caughtShare(caught, was) : null;
    const quiet = minutes > 0 ? falseCounts(nothing, minutes, allowedPerHour / 60) : null;
    const late = columnOf(
      some.filter((r) => 'late' in r.values),
      'late',
    );
    const name = `“${newest.values['alarm']}”, ${newest.values['level']}`;
    const facts = [
      fact(
        'Caught',
        share
          ? `${caught} of ${was}: more than ${printNumber(100 * share.lower95, 0)} % with 95 % confidence`
          : 'no actual events',
      ),
      fact(
        'False alarms',
        quiet
          ? `${nothing} in ${watchedFor(minutes)}: fewer than ${printSignificant(60 * quiet.upper95PerMinute, 2)} per hour with 95 % confidence`
          : 'not tested on a run without events',
      ),
      ...(late.length > 0 ? [fact('Longest delay', `${printSignificant(Math.max(...late), 2)} s`)] : []),
      fact(
        'Runs',
        `${counted(some.length, 'run')}${some.length < rows.length ? `, plus ${rows.length - some.length} with earlier settings` : ''}`,
      ),
    ];
    const seen = some.filter((r) => Number(r.values['was']) > 0);
    const plots: StudyResult['plots'] = [
      {
        title: 'Share caught, by run',
        x: axis('run', '', 'whole'),
        y: { ...axis('share caught', '%'), ends: [null, 100] },
        series: [
          {
            label: 'run',
            x: seen.map((_, k) => k + 1),
            y: seen.map((r) => (100 * Number(r.values['caught'])) / Number(r.values['was'])),
            style: 'points',
          },
        ],
        allowed: [caughtPercent, 100],
      },
    ];
    const needed = caughtPercent / 100;
    const told = { facts, plots };
    if (share && share.upper95 < needed)
      return {
        state: 'fail',
        sentence: `${name}: ${caught} of ${was} caught; at least ${caughtPercent} % is required.`,
        next: 'Use the level that the alarm test on the Face page proposes, then test again.',
        ...told,
      };
    if (quiet?.state === 'fail')
      return {
        state: 'fail',
        sentence: `${name}: ${counted(nothing, 'false alarm')} in ${watchedFor(minutes)}; ${allowedPerHour} per hour allowed.`,
        next: 'Use a more distant level, more hysteresis or more required readings, then test again.',
        ...told,
      };
    if (!share || share.lower95 < needed) {
      // All of so many would show it: their lower limit is the n-th root of 0.05.
      const all = Math.ceil(Math.log(0.05) / Math.log(needed));
      return notShown(
        share
          ? `${name}: ${caught} of ${was} caught does not prove ${caughtPercent} %.`
          : `${name}: no run with actual events yet.`,
        `Test it on runs with ${all} markers in total; catching every one is proof.`,
        facts,
        plots,
      );
    }
    if (quiet?.state !== 'pass') {
      const hours = -Math.log(0.05) / allowedPerHour;
      return notShown(
        `${name}: ${caught} of ${was} caught; ${minutes > 0 ? `${counted(nothing, 'false alarm')} in ${watchedFor(minutes)} is` : 'no time without events was tested, which is'} not enough to prove fewer than ${allowedPerHour} per hour.`,
        `Test it on uneventful runs of ${printSignificant(hours, 2)} h in total.`,
        facts,
        plots,
      );
    }
    return passes(
      `${name}: ${caught} of ${was} caught, ${counted(nothing, 'false alarm')} in ${watchedFor(minutes)}.`,
      facts,
      plots,
    );
  },
});
