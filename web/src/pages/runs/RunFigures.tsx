import type { ChannelCount, Gadget } from '@lucky-needle/core/model';
import { printNumber } from '@lucky-needle/core/units';
import { figureText, worthText } from '../../parts/counts/figureText.ts';

interface Props {
  readonly gadget: Gadget;
  readonly counts: readonly ChannelCount[] | null;
  readonly share: number | null;
  readonly error: string | null;
  readonly startS: number;
}

/** Figures of a whole run, a row each: what it is, what it is worth, when it was and how it was worked out. */
export function RunFigures({ gadget, counts, share, error, startS }: Props) {
  if (error)
    return (
      <p role="alert" className="mt-2 text-sm text-error">
        Cannot evaluate the events in this run: {error}
      </p>
    );
  if (!counts)
    return share === null ? null : (
      <p role="status" className="muted mt-2 text-sm">
        Evaluating… <progress className="progress progress-primary w-32" value={share} max={1} />
      </p>
    );
  const rows = counts.flatMap((c) => c.figures.map((figure) => ({ channel: c, figure })));
  const problems = counts.filter((c) => c.problem !== null);
  if (rows.length === 0 && problems.length === 0) return null;
  const shown = new Set(gadget.channels.flatMap((c) => (c.shows ? [`${c.id} ${c.shows}`] : [])));
  return (
    <div className="mt-2 overflow-x-auto">
      {problems.map((c) => (
        <p key={c.channelId} className="muted text-sm">
          {c.name}: {c.problem}
        </p>
      ))}
      <table className="table table-sm" aria-label="Results of this run">
        <thead>
          <tr>
            <th>Result</th>
            <th className="text-right">Value</th>
            <th>Uncertainty</th>
            <th>Time</th>
            <th>How calculated</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ channel, figure }) => (
            <tr key={`${channel.channelId} ${figure.id}`}>
              <td>
                {shown.has(`${channel.channelId} ${figure.id}`) && (
                  <span aria-label="shown on the needle" className="mr-2 inline-block h-3 w-1 bg-accent" />
                )}
                {figure.name} <span className="muted text-xs">{channel.name}</span>
              </td>
              <td className="num text-right whitespace-nowrap">{figureText(figure)}</td>
              <td className="num muted whitespace-nowrap">{worthText(figure)}</td>
              <td className="num muted whitespace-nowrap">
                {figure.timeS === null || figure.value === null
                  ? ''
                  : `${printNumber(figure.timeS - startS, 1)} s`}
              </td>
              <td className="muted text-xs">{figure.reason ?? figure.how}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
