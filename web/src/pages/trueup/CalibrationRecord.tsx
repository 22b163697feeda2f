import { format } from 'date-fns';
import {
  captureUncertainty,
  coverageFactor,
  evidenceInWords,
  type CheckJudgement,
} from '@lucky-needle/core/calibrate';
import type { Calibration, CalibrationPoint, EvidencePoint, Gadget } from '@lucky-needle/core/model';
import {
  printConstant,
  printNumber,
  printWithUncertainty,
  UNITS,
  type UnitId,
} from '@lucky-needle/core/units';

interface Props {
  readonly gadget: Gadget;
  readonly channelName: string;
  readonly calibration: Calibration;
  readonly points: readonly CalibrationPoint[];
  /** What a guided true-up was worked out from. */
  readonly evidence: readonly EvidencePoint[];
  readonly checks: readonly CheckJudgement[];
  /** Unit of the reading; null where the points are not of the reading itself. */
  readonly unit: UnitId | null;
}

/** One page of paper: what was trued up, against what, what was found, and what a check says. Only printed. */
export function CalibrationRecord(props: Props) {
  const { gadget, channelName, calibration, points, evidence, checks, unit } = props;
  const { result } = calibration;
  const used = points.filter((p) => calibration.pointIds.includes(p.id));
  const left = points.filter((p) => p.excluded !== null);
  const kept = evidence.filter((e) => calibration.pointIds.includes(e.id));
  const k = coverageFactor(result);
  const symbol = unit === null ? '' : UNITS[unit].symbol;
  return (
    <article className="print-only text-sm" data-testid="record">
      <h2 className="font-display text-2xl font-bold">Calibration record</h2>
      <p className="mt-1">
        {gadget.name}, {channelName}; {gadget.place.name}. Calibration {calibration.number}, {result.title},{' '}
        {format(new Date(calibration.createdAt), 'd MMMM yyyy, HH:mm')}.
      </p>
      <h3 className="section-title mt-3">Calibration constants, ± at 95 % (k = {printNumber(k, 2)})</h3>
      <ul>
        {result.parameters.map((p) => (
          <li key={p.stageId + p.param} className="num">
            {p.title}: {printConstant(p.value, k * p.u)} ±{printConstant(k * p.u, k * p.u)}{' '}
            {unitSymbol(p.unit)}
            {p.before !== null && `, was ${printConstant(p.before, k * p.u)}`}
          </li>
        ))}
      </ul>
      {kept.length > 0 && (
        <>
          <h3 className="section-title mt-3">Based on</h3>
          <ul>
            {kept.map((e) => (
              <li key={e.id}>
                {evidenceInWords(e.evidence)}, {format(new Date(e.keptAt), 'd MMM yyyy, HH:mm')}
              </li>
            ))}
          </ul>
        </>
      )}
      {used.length > 0 && <h3 className="section-title mt-3">Points</h3>}
      <table hidden={used.length === 0} className="table-sm table">
        <thead>
          <tr>
            <th>Reference</th>
            <th>True value, {symbol} (k = 2)</th>
            <th>Raw (k = 2)</th>
            <th>Captured</th>
          </tr>
        </thead>
        <tbody className="num">
          {used.map((p) => {
            const worth = printWithUncertainty(p.worth.value, p.worth.uncertainty, p.worth.unit);
            const raw = printWithUncertainty(p.capture.mean, 2 * captureUncertainty(p.capture), 'count');
            return (
              <tr key={p.id}>
                <td className="font-sans">{p.worth.title}</td>
                <td>
                  {worth.value} ±{worth.uncertainty} {worth.symbol}
                </td>
                <td>
                  {raw.value} ±{raw.uncertainty}
                </td>
                <td>{format(new Date(p.keptAt), 'd MMM yyyy, HH:mm')}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {left.length > 0 && (
        <p className="mt-1">Excluded: {left.map((p) => `${p.worth.title} (${p.excluded})`).join('; ')}.</p>
      )}
      <h3 className="section-title mt-3">Check points (not used in the fit)</h3>
      {checks.length === 0 ? (
        <p>No check points: the accuracy of the fit is not proven.</p>
      ) : (
        <ul>
          {checks.map((c, i) => (
            <li key={i}>
              {c.verdict.state === 'pass' ? 'Pass' : c.verdict.state === 'fail' ? 'Fail' : 'Not proven'}.{' '}
              {c.verdict.sentence}
            </li>
          ))}
        </ul>
      )}
      <p className="mt-3 text-xs">
        {unit !== null && (
          <>
            Valid for readings from {printConstant(result.validReading[0], 0.1)} to{' '}
            {printConstant(result.validReading[1], 0.1)} {symbol}.{' '}
          </>
        )}
        {unit !== null && UNITS[unit].dimension === 'house' && 'House units are relative and not traceable. '}
        Maker’s own record; only as traceable as its references.
      </p>
    </article>
  );
}

const unitSymbol = (unit: string) => (unit in UNITS ? UNITS[unit as UnitId].symbol : unit);
