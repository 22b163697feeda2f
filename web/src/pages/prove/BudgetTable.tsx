import type { BudgetAnswer } from '@lucky-needle/core/model';
import { printNumber, printSignificant, UNITS } from '@lucky-needle/core/units';

/** Where the error of a shown reading comes from, at the worst place of the range. */
export function BudgetTable({ budget, tolerance }: { budget: BudgetAnswer; tolerance: number }) {
  const symbol = UNITS[budget.unit].symbol;
  const knowsNothing = budget.unknown.length > 0 && budget.expanded === 0;
  return (
    <section className="panel">
      <h2>
        Error budget{' '}
        <span className="muted ml-2 text-sm font-normal">
          of one shown reading near {printNumber(budget.at, 0)} {symbol},{' '}
          {budget.isNow ? 'where it stood when this was worked out' : 'the worst place of the range'}
        </span>
      </h2>
      <div className="overflow-x-auto">
        <table className="table-sm table">
          <thead>
            <tr>
              <th className="pl-0">Source</th>
              <th className="text-right">Size</th>
              <th className="text-right" title="Standard uncertainty that it gives to the reading">
                Gives, {symbol}
              </th>
              <th className="w-36">Share</th>
            </tr>
          </thead>
          <tbody>
            {budget.lines.map((line) => (
              <tr key={line.title}>
                <td className="pl-0">
                  {line.title}
                  <span className="muted block text-xs">{line.source}</span>
                </td>
                <td className="num text-right whitespace-nowrap">
                  {line.halfWidth === null ? (
                    'not known'
                  ) : (
                    <>
                      {printSignificant(line.halfWidth, 2)} {line.unit}
                      <span className="muted block text-xs">{line.distribution}</span>
                    </>
                  )}
                </td>
                <td className="num text-right">
                  {line.gives === null ? '–' : printSignificant(line.gives, 2)}
                </td>
                <td>
                  {line.share === null ? (
                    '–'
                  ) : (
                    <div className="flex items-center gap-2">
                      <div className="h-2 grow rounded-sm bg-base-300">
                        <div
                          className="h-2 rounded-sm bg-primary"
                          style={{ width: `${100 * line.share}%` }}
                        />
                      </div>
                      <span className="num w-9 text-right text-xs">{printNumber(100 * line.share, 0)} %</span>
                    </div>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
          <tfoot>
            <tr className="text-base-content">
              <td className="pl-0 font-semibold">
                {budget.unknown.length > 0 ? 'What is known, at 95 %' : 'Together, at 95 %'}
              </td>
              {knowsNothing ? (
                <td className="num text-right" colSpan={2}>
                  nothing yet
                </td>
              ) : (
                <>
                  <td className="num text-right text-xs">k = {printNumber(budget.coverageFactor, 2)}</td>
                  <td className="num text-right font-semibold">
                    ±{printSignificant(budget.expanded, 2)} {symbol}
                  </td>
                </>
              )}
              <td className="num text-xs">allowed ±{printSignificant(tolerance, 2)}</td>
            </tr>
          </tfoot>
        </table>
      </div>
      <p className="muted mt-2 text-xs">
        Each size is divided by its distribution’s divisor, multiplied by its effect on the reading, and added
        in squares (JCGM 100:2008); k from{' '}
        {budget.degreesOfFreedom !== null
          ? `${printNumber(budget.degreesOfFreedom, 0)} effective degrees of freedom`
          : 'unlimited degrees of freedom'}
        .
      </p>
    </section>
  );
}
