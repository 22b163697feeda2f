import { Explained } from '../../parts/Explained.tsx';
import type { BudgetAnswer } from '@lucky-needle/core/model';
import { printNumber, printSignificant, UNITS } from '@lucky-needle/core/units';

/** Where the error of a shown reading comes from, at the worst place of the range. */
export function BudgetTable({ budget, tolerance }: { budget: BudgetAnswer; tolerance: number }) {
  const symbol = UNITS[budget.unit].symbol;
  const knowsNothing = budget.unknown.length > 0 && budget.expanded === 0;
  return (
    <section className="panel">
      <h2>
        <Explained text="Uncertainty budget" />{' '}
        <span className="muted ml-2 text-sm font-normal">
          for one reading near {printNumber(budget.at, 0)} {symbol},{' '}
          {budget.isNow ? 'the reading when this was calculated' : 'the worst point of the range'}
        </span>
      </h2>
      <div className="overflow-x-auto">
        <table className="table-sm table">
          <thead>
            <tr>
              <th className="pl-0">Source</th>
              <th className="text-right">Size</th>
              <th className="text-right" title="Contribution to the standard uncertainty of the reading">
                Contribution, {symbol}
              </th>
              <th className="w-36">Share</th>
            </tr>
          </thead>
          <tbody>
            {budget.lines.map((line) => (
              <tr key={line.title}>
                <td className="pl-0">
                  <Explained text={line.title} />
                  <span className="muted block text-xs">{line.source}</span>
                </td>
                <td className="num text-right whitespace-nowrap">
                  {line.halfWidth === null ? (
                    'unknown'
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
                {budget.unknown.length > 0 ? 'Known sources combined, 95 %' : 'Combined, 95 %'}
              </td>
              {knowsNothing ? (
                <td className="num text-right" colSpan={2}>
                  unknown
                </td>
              ) : (
                <>
                  <td className="num text-right text-xs">k = {printNumber(budget.coverageFactor, 2)}</td>
                  <td className="num text-right font-semibold">
                    ±{printSignificant(budget.expanded, 2)} {symbol}
                  </td>
                </>
              )}
              <td className="num text-xs">tolerance ±{printSignificant(tolerance, 2)}</td>
            </tr>
          </tfoot>
        </table>
      </div>
      <details className="mt-2">
        <summary className="muted cursor-pointer text-xs">How this is calculated</summary>
        <p className="muted mt-1 text-xs">
          <Explained
            text={`Each size is divided by the divisor of its distribution and multiplied by its effect on the reading; the results are added in quadrature (JCGM 100:2008). Coverage factor k from ${
              budget.degreesOfFreedom !== null
                ? `${printNumber(budget.degreesOfFreedom, 0)} effective degrees of freedom`
                : 'unlimited degrees of freedom'
            }.`}
          />
        </p>
      </details>
    </section>
  );
}
