import { Type } from 'typebox';
import { caughtShare, falseCounts } from '../../prove/counting.ts';
import { number } from '../../stage/params.ts';
import { printNumber, printSignificant } from '../../units/index.ts';
import { studyKind, type StudyResult, type StudyRow } from '../kind.ts';
import { axis, columnOf, counted, fact, notShown, passes, watchedFor } from '../words.ts';

/** An alarm on runs of which it is known what truly was: what it caught, how late, and how often it came for nothing. */
export const alarmTried = studyKind<{ caughtPercent: number; allowedPerHour: number }>({
  kind: 'alarm-tried',
  title: 'An alarm, tried',
  question: 'Does the alarm come when it must, and only then?',
  needs:
    'Runs with marks where something truly was, and ordinary ones; the Face page tries the alarm on each.',
  claim: 'The alarm comes when it must, and only then',
  settings: Type.Object({
    caughtPercent: number('It must catch at least', { above: 0, max: 99.9, unit: '%' }),
    allowedPerHour: number('For nothing at most, an hour', { above: 0, max: 100_000 }),
  }),
  begin: () => ({ caughtPercent: 80, allowedPerHour: 1 }),
  inUnit: [],
  columns: [
    { id: 'alarm', title: 'Alarm', holds: 'text' },
    { id: 'level', title: 'As it is set', holds: 'text' },
    { id: 'was', title: 'Truly was', holds: 'count' },
    { id: 'caught', title: 'Caught', holds: 'count' },
    { id: 'nothing', title: 'For nothing', holds: 'count' },
    { id: 'minutes', title: 'Ordinary time', holds: 'number', unit: 'min' },
    { id: 'late', title: 'Late', holds: 'number', unit: 's', optional: true },
  ],
  takes: null,
  suits: () => true,
  judge({ caughtPercent, allowedPerHour }, { rows }): StudyResult {
    const newest = rows.at(-1);
    if (!newest)
      return notShown(
        'It has not been tried on a run.',
        'Try it on a run on the Face page, and keep what came of it.',
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
          ? `${caught} of ${was}: more than ${printNumber(100 * share.lower95, 0)} % at 95 %`
          : 'nothing was there to catch',
      ),
      fact(
        'For nothing',
        quiet
          ? `${nothing} in ${watchedFor(minutes)}: below ${printSignificant(60 * quiet.upper95PerMinute, 2)} an hour at 95 %`
          : 'never watched while nothing was',
      ),
      ...(late.length > 0 ? [fact('Latest', `${printSignificant(Math.max(...late), 2)} s`)] : []),
      fact(
        'Runs',
        `${counted(some.length, 'run')}${some.length < rows.length ? `, ${rows.length - some.length} more as it was set before` : ''}`,
      ),
    ];
    const seen = some.filter((r) => Number(r.values['was']) > 0);
    const plots: StudyResult['plots'] = [
      {
        title: 'Caught, run by run',
        x: axis('run', '', 'whole'),
        y: { ...axis('caught of what was', '%'), ends: [null, 100] },
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
        sentence: `${name}: ${caught} of ${was} caught; ${caughtPercent} % are asked for.`,
        next: 'Take the level that the trial on the Face page proposes, and try it anew.',
        ...told,
      };
    if (quiet?.state === 'fail')
      return {
        state: 'fail',
        sentence: `${name}: ${counted(nothing, 'time')} for nothing in ${watchedFor(minutes)}; ${allowedPerHour} an hour is allowed.`,
        next: 'Take a level further out, more hysteresis, or more readings of some, and try it anew.',
        ...told,
      };
    if (!share || share.lower95 < needed) {
      // All of so many would show it: their lower limit is the n-th root of 0.05.
      const all = Math.ceil(Math.log(0.05) / Math.log(needed));
      return notShown(
        share
          ? `${name}: ${caught} of ${was} caught does not show ${caughtPercent} %.`
          : `${name}: no run yet in which something truly was.`,
        `Try it on runs with ${all} marks in all: if it catches each, that shows it.`,
        facts,
        plots,
      );
    }
    if (quiet?.state !== 'pass') {
      const hours = -Math.log(0.05) / allowedPerHour;
      return notShown(
        `${name}: ${caught} of ${was} caught; ${minutes > 0 ? `${counted(nothing, 'time')} for nothing in ${watchedFor(minutes)} does` : 'no ordinary time was watched, which does'} not show fewer than ${allowedPerHour} an hour.`,
        `Try it on ordinary runs of ${printSignificant(hours, 2)} h in all.`,
        facts,
        plots,
      );
    }
    return passes(
      `${name}: ${caught} of ${was} caught, ${counted(nothing, 'time')} for nothing in ${watchedFor(minutes)}.`,
      facts,
      plots,
    );
  },
});
