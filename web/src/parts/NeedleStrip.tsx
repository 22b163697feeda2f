import { isBeyondPoints } from '@lucky-needle/core/calibrate';
import { Link } from 'react-router';
import { lineUncertainty, REASON, REASONS, type CalibrationCovariance } from '@lucky-needle/core/line';
import {
  UNITS,
  printNominal,
  printNumber,
  printSignificant,
  printWithUncertainty,
  printWorth,
  readingDecimals,
  type UnitId,
} from '@lucky-needle/core/units';
import { namedState, stateOfReading } from '@lucky-needle/core/plan';
import type { Channel, NowFigure } from '@lucky-needle/core/model';
import type { LiveLine } from '../live/useLiveLine.ts';
import { upperFirst } from '@lucky-needle/core/words';

export interface Found {
  readonly name: string;
  readonly counted: number;
  readonly refused: number;
}

interface Props {
  readonly live: LiveLine;
  readonly calibration: CalibrationCovariance | null;
  /** Standard deviation of single raw readings; null when not measured. */
  readonly noiseRaw: number | null;
  /** Standard uncertainty of the newest reading with all that is known of it; null when not known. */
  readonly worth: number | null;
  readonly tolerance: number | null;
  /** Words for what the needle shows. */
  readonly states: Channel['states'];
  /** The figure that is shown instead of the reading; null for the reading. */
  readonly figure: {
    readonly name: string;
    readonly now: NowFigure | null;
    readonly problem: string | null;
  } | null;
  /** What was counted in the last minute; null where nothing is. */
  readonly found: Found | null;
  /** Where slips are asked about; none where they cannot be. */
  readonly slipHref?: string;
  /** Address of a stage on the Line page. */
  stageHref(stageId: string): string;
}

/** The present reading walking through the line, stage by stage, with its uncertainty (k = 2). Red is what is true now. */
export function NeedleStrip({
  live,
  calibration,
  noiseRaw,
  worth,
  tolerance,
  states,
  figure,
  found,
  slipHref,
  stageHref,
}: Props) {
  const { line, newest } = live;
  if (!line) {
    return (
      <p role="alert" className="rounded-box border border-error/50 bg-error/8 px-4 py-3 text-sm">
        <strong>The signal line has an error.</strong> {live.error?.message}
      </p>
    );
  }
  const present = newest.length > 0;
  const uncertain =
    worth !== null && present && Number.isFinite(newest[0])
      ? lineUncertainty(line, live.newestRaw, noiseRaw ?? 0, calibration)
      : null;
  const adc = line.stages.find((s) => s.spec.kind === 'adc');
  const unit = line.outputs[0]!.unit;
  const last = line.stages.length;
  const over = line.stages.findIndex((s) => s.kind.over);
  const shown = newest[last] ?? Number.NaN;
  const shownU = 2 * (worth ?? Number.NaN);
  const value = figure?.now?.value ?? null;
  const word = figure
    ? value !== null
      ? namedState(states, value, figure.now!.unit)
      : null
    : present
      ? stateOfReading(states, line, shown, live.newestReason)
      : null;
  const isBeyond = present && isBeyondPoints(calibration?.validRaw, live.newestRaw);
  return (
    <nav
      aria-label="Signal line, live"
      className="overflow-x-auto rounded-box border border-base-300 bg-base-100"
    >
      <ol className="flex min-w-max items-stretch">
        <Cell
          title={`Raw ${line.sources[0]!.name}`}
          href={stageHref(adc?.spec.id ?? '')}
          value={present ? rawInWords(newest[0]!, line.sources[0]!.unit) : '–'}
          under={
            adc
              ? `of ${2 ** Number(adc.spec.params['bits']) - 1} counts`
              : line.sources[0]!.unit === 'count'
                ? 'counts'
                : UNITS[line.sources[0]!.unit].symbol
          }
          first
        />
        {line.stages.map((stage, k) => {
          const value = newest[k + 1] ?? Number.NaN;
          // What other channels add to it is told at the end only.
          const isAlone = over < 0 || k < over;
          const u =
            k + 1 === last ? shownU : uncertain && isAlone ? 2 * uncertain[k + 1]!.combined : Number.NaN;
          const scaled = scaleForPrint(
            value,
            u,
            stage.outputs[0]!.unit,
            stage.outputs[0]!.unit === unit ? tolerance : null,
          );
          return (
            <Cell
              key={stage.spec.id}
              title={stage.kind.title}
              href={stageHref(stage.spec.id)}
              value={present && Number.isFinite(value) ? `${scaled.value} ${scaled.symbol}` : '–'}
              under={scaled.uncertainty ? `±${scaled.uncertainty}` : ' '}
            />
          );
        })}
        {found && (
          <Cell
            title={found.name}
            href={stageHref('')}
            value={`${found.counted} found`}
            under={found.refused > 0 ? `last minute; ${found.refused} ignored` : 'last minute'}
          />
        )}
        <li
          className="sticky right-0 flex min-w-34 grow flex-col justify-center border-l-2 border-accent bg-[color-mix(in_oklab,var(--color-accent)_10%,var(--color-base-100))] px-4 py-2"
          data-testid="needle-shown"
        >
          <span className="text-xs">
            <span className="muted">{figure ? figure.name : 'Reading'}</span>
            {live.isDraft && (
              <span className="text-warning" title="Unsaved draft, tried on readings of the last minute">
                {' '}
                (draft)
              </span>
            )}
            {isBeyond && (
              <span
                className="text-warning"
                title="Outside the calibration points: this reading is extrapolated"
              >
                {' '}
                extrapolated
              </span>
            )}
          </span>
          {word !== null ? (
            <span className="text-lg leading-tight font-semibold whitespace-nowrap">
              {word}{' '}
              <span className="muted num text-xs font-normal">
                {figure
                  ? `${printNumber(value!, figure.now!.decimals)} ${UNITS[figure.now!.unit].symbol}`
                  : Number.isFinite(shown)
                    ? `${printNumber(shown, readingDecimals(shownU, tolerance))} ${UNITS[unit].symbol}`
                    : REASONS[live.newestReason]}
              </span>
            </span>
          ) : figure ? (
            <ShownFigure {...figure} />
          ) : Number.isFinite(shown) ? (
            <span className="num text-lg leading-tight font-semibold whitespace-nowrap">
              {printNumber(shown, readingDecimals(shownU, tolerance))} {UNITS[unit].symbol}{' '}
              <span className="muted text-xs font-normal">
                {Number.isFinite(shownU)
                  ? printWorth(shownU, readingDecimals(shownU, tolerance))
                  : '± unknown'}
              </span>
            </span>
          ) : (
            <span className="text-sm font-semibold">
              {present ? sentence(live.newestReason) : 'No reading'}
            </span>
          )}
          <span className="num muted text-xs">
            {toleranceText(figure ? (figure.now?.tolerance ?? null) : tolerance)}
            {slipHref && (
              <>
                <span className="max-sm:hidden"> · </span>
                <Link to={slipHref} className="link max-sm:block">
                  Looks wrong?
                </Link>
              </>
            )}
          </span>
        </li>
      </ol>
    </nav>
  );
}

const toleranceText = (tolerance: number | null) =>
  tolerance === null ? 'no tolerance set' : `tolerance ±${printSignificant(tolerance, 2)}`;

/** The figure on the needle with its worth, or why there is none. */
function ShownFigure({ now, problem }: { now: NowFigure | null; problem: string | null }) {
  if (!now || now.value === null)
    return (
      <span className="max-w-52 text-sm font-semibold whitespace-normal">
        {problem ? 'Cannot calculate: see the Line page' : (now?.reason ?? 'No reading')}
      </span>
    );
  const { value, unit, decimals, uncertainty } = now;
  return (
    <span className="num text-lg leading-tight font-semibold whitespace-nowrap">
      {printNumber(value, decimals)} {UNITS[unit].symbol}{' '}
      <span className="muted text-xs font-normal">
        {uncertainty === null ? '± unknown' : uncertainty > 0 && printWorth(uncertainty, decimals)}
      </span>
    </span>
  );
}

function sentence(reason: number): string {
  const text = REASONS[reason === REASON.ok ? REASON.missing : reason] ?? 'bad reading';
  return upperFirst(text);
}

/**
 * Thousands of ohms print as kilohm. Of what nobody knows the worth, no more digits than one beyond those that are shown.
 * @param tolerance of the readings where they have this unit; null elsewhere
 */
function scaleForPrint(value: number, u: number, unit: UnitId, tolerance: number | null) {
  if (!(u > 0) && tolerance !== null)
    return {
      value: printNumber(value, readingDecimals(null, tolerance) + 1),
      uncertainty: '',
      symbol: UNITS[unit].symbol,
    };
  return unit === 'ohm' && Math.abs(value) >= 1000
    ? printWithUncertainty(value / 1000, u / 1000, 'kohm')
    : printWithUncertainty(value, u, unit);
}

function Cell({
  title,
  value,
  under,
  href,
  first = false,
}: {
  title: string;
  value: string;
  under: string;
  href: string;
  first?: boolean;
}) {
  return (
    <li className="flex items-stretch">
      {!first && (
        <span aria-hidden className="muted self-center text-xs">
          ›
        </span>
      )}
      <Link
        to={href}
        className="flex min-w-29 flex-col justify-center rounded-field px-3.5 py-2 hover:bg-base-200"
      >
        <span className="muted text-xs whitespace-nowrap">{title}</span>
        <span className="num text-[0.95rem] leading-tight font-semibold whitespace-nowrap">{value}</span>
        <span className="num muted text-xs whitespace-pre">{under}</span>
      </Link>
    </li>
  );
}

/** Codes are whole; a digital part's own quantity has a few digits. */
const rawInWords = (value: number, unit: UnitId) =>
  unit === 'count' ? printNumber(value, 0) : printNominal(value, 4);
