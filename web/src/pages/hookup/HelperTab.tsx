import { dividerOf } from '@lucky-needle/core/plan';
import type { HookupTabProps } from './tabProps.ts';
import { DividerCard } from './DividerCard.tsx';
import { FilterCard } from './FilterCard.tsx';
import { HeatCard } from './HeatCard.tsx';

/** Small sums of the workbench: the divider's resistor, the filter before the converter, the heat in a load. */
export function HelperTab(props: HookupTabProps) {
  const withDivider = props.gadget.channels.filter((c) => dividerOf(c.line));
  return (
    <div className="grid gap-4">
      {withDivider.length > 0 ? (
        <DividerCard {...props} channels={withDivider} />
      ) : (
        <p className="panel muted text-sm">
          No channel has a voltage divider. The lines of thermistors and heated gas sensors contain one.
        </p>
      )}
      <div className="grid items-start gap-4 lg:grid-cols-2">
        <FilterCard {...props} />
        <HeatCard />
      </div>
    </div>
  );
}
