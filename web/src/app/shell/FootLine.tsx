import { Link as RouterLink, useParams } from 'react-router';
import type { Link } from '@lucky-needle/core/model';
import { printSignificant } from '@lucky-needle/core/units';
import { useLiveOf } from '../../live/useLive.ts';

/** Link, real readings a second, lost readings, where the raw data is safe. */
export function FootLine({ link }: { link: Link | null }) {
  const connected = useLiveOf((live) => live.connected);
  const status = useLiveOf((live) => live.status);
  const openKeys = () => (document.getElementById('keys-help') as HTMLDialogElement | null)?.showModal();
  return (
    <footer className="foot num sticky bottom-0 z-20 flex min-h-8 flex-wrap items-center gap-x-6 gap-y-0.5 border-t border-base-300 bg-base-200 px-4 py-1 text-xs lg:px-6">
      <FootState link={link} connected={connected} />
      {link && connected && status && (
        <>
          <span>{printSignificant(status.achievedHz, 3)} readings/s</span>
          <span className={status.lost > 0 ? 'text-warning' : ''}>{status.lost} lost</span>
          {status.badLines > 0 && (
            <span className="text-warning" title={status.lastBadLine ?? ''}>
              {status.badLines} unreadable lines
            </span>
          )}
          {status.speed !== 1 && <span className="text-warning">simulated time ×{status.speed}</span>}
          {status.recording ? (
            status.recording.problem ? (
              <span role="alert" className="font-semibold text-error">
                ✕ not saved to disk: {status.recording.problem}
              </span>
            ) : (
              <span>● recording, {status.recording.committed} readings saved</span>
            )
          ) : (
            <span className="muted">not recording</span>
          )}
        </>
      )}
      <button type="button" className="muted ml-auto rounded-field hover:underline" onClick={openKeys}>
        ? shortcuts
      </button>
    </footer>
  );
}

function FootState({ link, connected }: { link: Link | null; connected: boolean }) {
  const { gadgetId = '' } = useParams();
  const status = useLiveOf((live) => live.status);
  if (!connected) {
    return (
      <span role="status" className="font-semibold text-error">
        ✕ server not responding; retrying
      </span>
    );
  }
  const to = `/g/${gadgetId}/link`;
  if (!link)
    return (
      <RouterLink to={to} className="muted hover:underline">
        ○ no link
      </RouterLink>
    );
  const state = status?.state ?? link.state;
  if (state === 'up')
    return (
      <RouterLink to={to} className="hover:underline">
        ● {link.name}
      </RouterLink>
    );
  return (
    <span role="status" className="font-semibold text-error">
      ✕{' '}
      <RouterLink to={to} className="hover:underline">
        {link.name}
      </RouterLink>
      : {state === 'unplugged' ? 'unplugged' : 'no readings'}
    </span>
  );
}
