import { useMemo, useState } from 'react';
import {
  calibrationCovariance,
  fitCalibration,
  fitPoint,
  fitReach,
  FITS,
  fitsFor,
  hasCorrection,
  heatedElements,
  judgeChecks,
  recommendFit,
  withCorrection,
} from '@lucky-needle/core/calibrate';
import { rangeIn, toleranceIn, trueUpChannel } from '@lucky-needle/core/plan';
import { compileLine, editLine, LineError } from '@lucky-needle/core/line';
import { UNITS, type DimensionName } from '@lucky-needle/core/units';
import { useBench, useChannel } from '../../app/useBench.ts';
import { ChannelStrip } from '../../parts/ChannelStrip.tsx';
import { EmptyState } from '../../parts/EmptyState.tsx';
import { PageHead } from '../../parts/PageHead.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { useSaveGadget } from '../../parts/useSaveGadget.ts';
import { CalibrationRecord } from './CalibrationRecord.tsx';
import { CaptureCard } from './CaptureCard.tsx';
import { FitCard, type FitOutcome } from './FitCard.tsx';
import { BlankCard } from './guided/BlankCard.tsx';
import { CleanAirCard } from './guided/CleanAirCard.tsx';
import { CrossCard } from './guided/CrossCard.tsx';
import { SampleCard, strengthStage } from './guided/SampleCard.tsx';
import { SpectrumCard } from './guided/SpectrumCard.tsx';
import { GuidedCards } from './guided/GuidedCards.tsx';
import { guidedFor } from './guided/guidedFor.ts';
import { NextPointCard } from './NextPointCard.tsx';
import { nextPointOf } from './nextPointOf.ts';
import { PointsPlot } from './PointsPlot.tsx';
import { PointsTable } from './PointsTable.tsx';
import { ResidualPlot } from './ResidualPlot.tsx';
import { SlipForm } from './SlipForm.tsx';
import { VerdictCard } from './VerdictCard.tsx';
import { Versions } from './Versions.tsx';

/** How to begin, where a quantity has its own way. */
const FIRST_POINTS: Partial<Record<DimensionName, string>> = {
  temperature:
    'Put the probe in ice slurry, wait for “steady”, then capture the point. Repeat in a warm bath next to a comparison thermometer, then in boiling water.',
  'mass concentration':
    'Make a dilution series from one stock: the blank, then four or five concentrations up to the strongest you will measure, all in the same cuvette. Wait for “steady” each time, then capture the point.',
};

/** Calibration against references: capture, fit, judge at a check point, put in use. */
export function TrueUpPage() {
  const bench = useBench();
  const { gadget } = bench;
  const channel = useChannel(bench);
  const [chosen, setChosen] = useState<Record<string, string>>({});
  const { save, saving, problem } = useSaveGadget(gadget);
  const { base, points } = channel;
  const worked = useMemo(() => {
    const context = { sampleRateHz: gadget.sampleRateHz };
    try {
      const bought = compileLine(base, context);
      const unit = bought.outputs[0]!.unit;
      const counted = points.filter((p) => p.excluded === null);
      const fitPoints = counted.filter((p) => p.role === 'fit').map((p) => fitPoint(p, unit));
      const checks = counted.filter((p) => p.role === 'check').map((p) => fitPoint(p, unit));
      const outcomes: FitOutcome[] = fitsFor(base).map((kind) => ({
        id: kind.id,
        result: fitCalibration(kind, base, context, fitPoints),
      }));
      return { bought, unit, checks, outcomes, context };
    } catch (error) {
      if (error instanceof LineError) return null;
      throw error;
    }
  }, [base, points, gadget.sampleRateHz]);

  const owner = trueUpChannel(gadget, channel.channel);
  if (owner.id !== channel.channel.id)
    return (
      <>
        <PageHead title="True-up" gadget={gadget} channel={channel} />
        <ChannelStrip readingOnly channel={channel} />
        <EmptyState title={`${channel.channel.name} is calculated from ${owner.name}`}>
          It uses that channel’s calibration.{' '}
          <button type="button" className="btn btn-sm" onClick={() => channel.choose(owner.id)}>
            Calibrate {owner.name}
          </button>
        </EmptyState>
        {worked && <SlipForm key={channel.channel.id} channel={channel} unit={worked.unit} />}
      </>
    );
  if (!worked || base.stages.length === 0) {
    return (
      <>
        <PageHead title="True-up" gadget={gadget} channel={channel} />
        <ChannelStrip readingOnly channel={channel} />
        <EmptyState title="Set up the line first">
          Calibration corrects a signal line. Build a line on the Line page that ends in the unit of the
          brief.
        </EmptyState>
      </>
    );
  }
  if (guidedFor(base)) {
    return (
      <>
        {channel.calibration && (
          <CalibrationRecord
            gadget={gadget}
            channelName={channel.channel.name}
            calibration={channel.calibration}
            points={[]}
            evidence={bench.evidence}
            checks={[]}
            unit={null}
          />
        )}
        <div className="no-print">
          <PageHead title="True-up" gadget={gadget} channel={channel} />
          <ChannelStrip readingOnly channel={channel} />
          <GuidedCards channel={channel} unit={worked.unit} />
        </div>
      </>
    );
  }
  if (base.sources.length > 1) {
    return (
      <>
        <PageHead title="True-up" gadget={gadget} channel={channel} />
        <ChannelStrip readingOnly channel={channel} />
        <EmptyState title="This line combines several columns">
          A calibration point compares one raw column with one reference, but this reading combines{' '}
          {base.sources.map((s) => s.column).join(', ')}. Correct each column with its own stage on the Line
          page.
        </EmptyState>
      </>
    );
  }
  const addCorrection = () =>
    void save(
      {
        channels: gadget.channels.map((c) =>
          c.id === channel.channel.id ? { ...c, line: withCorrection(c.line) } : c,
        ),
      },
      'Gain and offset added; the line can now be calibrated.',
    );
  const { bought, unit, checks, outcomes, context } = worked;
  const tolerance = toleranceIn(channel.brief, unit);
  const results = outcomes.flatMap((o) => (typeof o.result === 'string' ? [] : [o.result]));
  const asked = channel.brief && rangeIn(channel.brief, unit);
  const range = asked && ([asked.low, asked.high] as const);
  const recommended = tolerance === null ? null : recommendFit(results, tolerance, range, UNITS[unit].symbol);
  const fitId =
    chosen[channel.channel.id] ??
    recommended?.nearest ??
    channel.calibration?.result.fit ??
    firstOf(outcomes);
  const selected = results.find((r) => r.fit === fitId && r.converged) ?? null;
  const next = nextPointOf(
    fitId,
    base,
    context,
    points.filter((p) => p.excluded === null && p.role === 'fit').map((p) => fitPoint(p, unit)),
    selected,
    range,
    tolerance,
  );
  const fitted = selected ? compileLine(editLine(base, selected.edits), context) : null;
  const before = tolerance === null ? [] : judgeChecks(bought, checks, tolerance, unit);
  const after = tolerance === null || !fitted ? [] : judgeChecks(fitted, checks, tolerance, unit);

  // The paper record speaks of the version in use, whatever fit is being looked at.
  const recordChecks =
    tolerance === null || !channel.calibration
      ? []
      : judgeChecks(compileLine(channel.line, context), checks, tolerance, unit);

  return (
    <>
      {channel.calibration && (
        <CalibrationRecord
          gadget={gadget}
          channelName={channel.channel.name}
          calibration={channel.calibration}
          points={points}
          evidence={[]}
          checks={recordChecks}
          unit={unit}
        />
      )}
      <div className="no-print">
        <PageHead title="True-up" gadget={gadget} channel={channel} />
        <ChannelStrip readingOnly channel={channel} />
      </div>
      <div className="no-print grid items-start gap-4 xl:grid-cols-[1fr_21rem]">
        <div className="order-2 grid min-w-0 gap-4 xl:order-1">
          {base.stages.some((s) => s.kind === 'absorbance') && (
            <>
              <BlankCard />
              {strengthStage(base) ? (
                <SampleCard key={channel.channel.id} channel={channel} />
              ) : (
                <SpectrumCard />
              )}
            </>
          )}
          {heatedElements([channel.channel]).length > 0 && <CleanAirCard />}
          {heatedElements([channel.channel]).length > 0 && heatedElements(gadget.channels).length > 1 && (
            <CrossCard
              key={`answers ${channel.channel.id}`}
              channel={channel.channel}
              channels={heatedElements(gadget.channels)}
            />
          )}
          {points.length === 0 ? (
            <EmptyState title="No points yet">
              {FIRST_POINTS[UNITS[unit].dimension] ??
                'Apply known values: one near the bottom of the range, one in the middle and one near the top. Wait for “steady” each time, then capture the point.'}{' '}
              Capture one point as a check: it shows how accurate the fit really is.
            </EmptyState>
          ) : (
            <>
              <PointsPlot
                bought={bought}
                fitted={fitted}
                covariance={selected && calibrationCovariance(selected)}
                points={points}
                noiseRaw={channel.noiseRaw ?? 0}
                next={next && next.told.pointsLeft !== 0 ? next.told.raw : null}
              />
              <ResidualPlot
                points={points}
                line={fitted ?? bought}
                fitted={fitted !== null}
                tolerance={tolerance}
              />
              <PointsTable gadget={gadget} points={points} line={fitted ?? bought} tolerance={tolerance} />
            </>
          )}
          <SlipForm key={channel.channel.id} channel={channel} unit={unit} />
        </div>
        <div className="order-1 grid gap-4 xl:order-2">
          <VerdictCard
            gadget={gadget}
            channel={channel}
            selected={selected}
            before={before}
            after={after}
            unit={unit}
            hasTolerance={tolerance !== null}
          />
          <CaptureCard key={channel.channel.id} channel={channel} />
          {next && tolerance !== null && (
            <NextPointCard
              next={next.told}
              goal={next.goal}
              range={range!}
              unit={unit}
              place={gadget.place}
              title={next.kind.title}
            />
          )}
          <ProblemNote problem={problem} />
          <FitCard
            outcomes={outcomes}
            selected={fitId}
            recommended={recommended}
            reach={selected && fitReach(base, selected, context)}
            symbolUnit={unit}
            onAddCorrection={hasCorrection(base) || saving ? null : addCorrection}
            onSelect={(id) => setChosen({ ...chosen, [channel.channel.id]: id })}
          />
          <Versions
            calibrations={bench.calibrations.filter((c) => c.channelId === channel.channel.id)}
            line={base}
            sampleRateHz={gadget.sampleRateHz}
            unit={unit}
            name={`${gadget.name}, ${channel.channel.name}`}
          />
        </div>
      </div>
    </>
  );
}

/** What is headed for before anything is known: the one constant that parts are marked with, or a straight line. */
const firstOf = (outcomes: readonly FitOutcome[]): string =>
  (outcomes.find((o) => o.id === FITS[0]!.id) ?? outcomes.find((o) => o.id === 'gain-offset') ?? outcomes[0])
    ?.id ?? '';
