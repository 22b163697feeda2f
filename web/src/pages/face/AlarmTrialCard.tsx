import { useMemo, useState } from 'react';
import type { AlarmRule, AlarmTrialResult, AlarmTruth, Channel, Recording } from '@lucky-needle/core/model';
import { printNominal, printSignificant, UNITS } from '@lucky-needle/core/units';
import { useLazyTryAlarmQuery } from '../../api/alarmApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { Choice } from '../../parts/Choice.tsx';
import { NumberField } from '../../parts/NumberField.tsx';
import { Plot } from '../../parts/Plot.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { KeepTrial } from './KeepTrial.tsx';
import { counted } from '@lucky-needle/core/words';

interface Props {
  readonly rules: readonly AlarmRule[];
  readonly channels: readonly Channel[];
  readonly recordings: readonly Recording[];
  /** Takes a proposed level over into the rule. */
  onLevel(rule: AlarmRule, level: number): void;
}

const AGAIN_MS = 300;

/** Tries an alarm on a run before it is trusted: what it would have caught, how late, and how often it would have come for nothing. */
export function AlarmTrialCard({ rules, channels, recordings, onLevel }: Props) {
  const usable = recordings.filter((r) => r.state !== 'recording' && r.sampleCount > 0);
  const tryable = rules.filter((r) => r.kind !== 'silent');
  const [ruleId, setRuleId] = useState('');
  const [runId, setRunId] = useState('');
  const [truthId, setTruthId] = useState('none');
  const [withinS, setWithinS] = useState(60);
  const [result, setResult] = useState<{ of: string; rule: AlarmRule; told: AlarmTrialResult } | null>(null);
  const [share, setShare] = useState<number | null>(null);
  const [look, { error }] = useLazyTryAlarmQuery();
  const rule = tryable.find((r) => r.id === ruleId) ?? tryable[0];
  const run = usable.find((r) => r.id === runId) ?? usable[0];
  const truths = truthsOf(run, channels);
  const { id: chosen, truth } = truths.find((t) => t.id === truthId) ?? truths[0]!;
  if (!rule || !run) return null;
  // What was told of another level, run or mark says nothing of these.
  const asked = JSON.stringify([rule, run.id, truth, withinS]);
  const start = async () => {
    setResult(null);
    setShare(0);
    for (;;) {
      const { data } = await look({ recordingId: run.id, body: { rule, truth, withinS } });
      if (!data) break;
      if (!('share' in data)) {
        setResult({ of: asked, rule, told: data });
        break;
      }
      setShare(data.share);
      await new Promise((done) => setTimeout(done, AGAIN_MS));
    }
    setShare(null);
  };
  return (
    <section className="panel grid gap-3" aria-label="Test an alarm on a run">
      <h2>Test an alarm on a run</h2>
      <p className="muted text-sm">
        Choose a run in which you know when the event really happened: from markers, from the script of a
        simulated gadget, or from events on another channel. Or choose an uneventful run to see how often the
        alarm goes off falsely.
      </p>
      <div className="grid gap-3 sm:grid-cols-2">
        <Choice
          wide
          label="Alarm"
          value={rule.id}
          onChange={setRuleId}
          options={tryable.map((r) => [r.id, r.name] as const)}
        />
        <Choice
          wide
          label="Run"
          value={run.id}
          onChange={setRunId}
          options={usable.map((r) => [r.id, r.name] as const)}
        />
        <Choice
          wide
          label="Actual events"
          value={chosen}
          onChange={setTruthId}
          options={truths.map((t) => [t.id, t.title] as const)}
        />
        <NumberField
          label="Counts as caught within"
          unit="s"
          value={withinS}
          onChange={setWithinS}
          check={(v) => (v > 0 && v <= 86_400 ? null : 'Enter 0 to 86,400 s.')}
        />
      </div>
      <button
        type="button"
        className="btn btn-sm justify-self-start"
        disabled={share !== null}
        onClick={() => void start()}
      >
        {share === null ? 'Test' : `Testing, ${Math.round(100 * share)} %`}
      </button>
      <ProblemNote problem={problemOf(error)} />
      {result?.of === asked && (
        <>
          <Result rule={result.rule} told={result.told} onLevel={onLevel} />
          <KeepTrial rule={result.rule} told={result.told} run={run} />
        </>
      )}
    </section>
  );
}

interface KnownTruth {
  readonly id: string;
  readonly title: string;
  readonly truth: AlarmTruth;
}

/** What can say when something truly was: the marks of a run, and what counts on a channel. */
function truthsOf(run: Recording | undefined, channels: readonly Channel[]): readonly KnownTruth[] {
  const marks = [...new Set((run?.markers ?? []).map((m) => m.text))];
  return [
    { id: 'none', title: 'none (uneventful run)', truth: { kind: 'none' } },
    ...marks.map((text): KnownTruth => ({
      id: `marks ${text}`,
      title: `at markers “${text}”`,
      truth: { kind: 'marks', text },
    })),
    ...channels.flatMap(({ id: channelId, name, watches = [] }) =>
      watches.map((w): KnownTruth => ({
        id: `watch ${channelId} ${w.id}`,
        title: `each “${w.name}” event of ${name}`,
        truth: { kind: 'watch', channelId, watchId: w.id },
      })),
    ),
  ];
}

function Result({
  rule,
  told,
  onLevel,
}: { rule: AlarmRule; told: AlarmTrialResult } & Pick<Props, 'onLevel'>) {
  const { own, events, hours, falsePerHourBelow, levels, proposed } = told;
  const { symbol } = UNITS[rule.unit];
  const at = (v: number) => `${printNominal(v, 3)} ${symbol}`.trim();
  const series = useMemo(
    () => [
      ...(events > 0
        ? [
            {
              label: 'Missed',
              x: levels.map((l) => l.level),
              y: levels.map((l) => l.missed),
              ink: 'error' as const,
              style: 'dashed' as const,
            },
          ]
        : []),
      {
        label: 'False alarms',
        x: levels.map((l) => l.level),
        y: levels.map((l) => l.falseAlarms),
        ink: 'trace' as const,
        style: 'line' as const,
      },
    ],
    [levels, events],
  );
  const most = Math.max(0, ...levels.map((l) => Math.max(l.missed, l.falseAlarms)));
  return (
    <div className="grid gap-2 text-sm" data-testid="alarm-trial">
      <p>
        {events > 0 && (
          <>
            <strong className="font-semibold">
              {own.caught} of {events} caught
            </strong>
            {own.lateS !== null && `, median delay ${printNominal(own.lateS, 2)} s`}
            {own.missed > 0 && `, ${own.missed} missed`}.{' '}
          </>
        )}
        {own.falseAlarms === 0 ? 'No false alarms' : counted(own.falseAlarms, 'false alarm')} in{' '}
        {printNominal(hours * 60, 3)} min
        {falsePerHourBelow !== null &&
          `: fewer than ${printSignificant(falsePerHourBelow, 2)} per hour with 95 % confidence`}
        .
      </p>
      {proposed && (
        <p>
          Any limit from {at(proposed.low)} to {at(proposed.high)} catches {proposed.caught} of {events} with{' '}
          {proposed.falseAlarms === 0 ? 'no false alarms' : counted(proposed.falseAlarms, 'false alarm')};{' '}
          {at(proposed.level)} is the midpoint.{' '}
          {proposed.level !== own.level && (
            <button type="button" className="btn btn-xs" onClick={() => onLevel(rule, proposed.level)}>
              Set the limit to {at(proposed.level)}
            </button>
          )}
        </p>
      )}
      {levels.length > 2 && (
        <div>
          <Plot
            title="Missed events and false alarms by limit"
            series={series}
            x={{ label: 'Limit', unit: symbol }}
            y={{ label: 'Count', unit: '', min: 0, max: most + 1, step: Math.ceil((most + 1) / 6) }}
            height={180}
          />
          <p className="muted text-xs">{events > 0 && 'Dashed: missed events. '}Solid: false alarms.</p>
        </div>
      )}
    </div>
  );
}
