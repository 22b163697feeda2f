import type { ComponentProps } from 'react';
import { DIMENSIONS, UNITS, unitsOf } from '@lucky-needle/core/units';

/** What a needle may show: everything but raw counts. */
const SHOWN_DIMENSIONS = Object.keys(DIMENSIONS).filter((d) => d !== 'count' && unitsOf(d).length > 0);

/** A choice of unit, grouped by quantity. @param counts whether a converter's plain counts are offered as well */
export function UnitSelect({ counts = false, ...props }: ComponentProps<'select'> & { counts?: boolean }) {
  return (
    <select className="select select-sm w-full" {...props}>
      {counts && <option value="count">counts</option>}
      {SHOWN_DIMENSIONS.map((dimension) => (
        <optgroup key={dimension} label={dimension}>
          {unitsOf(dimension).map((u) => (
            <option key={u} value={u}>
              {UNITS[u].symbol ? `${UNITS[u].symbol} (${UNITS[u].name})` : UNITS[u].name}
            </option>
          ))}
        </optgroup>
      ))}
    </select>
  );
}
