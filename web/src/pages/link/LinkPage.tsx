import { useState } from 'react';
import { useRemoveLinkMutation } from '../../api/linkApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { useBench } from '../../app/useBench.ts';
import { LinkCard } from '../../parts/LinkCard.tsx';
import { PageHead } from '../../parts/PageHead.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { CableCard } from './CableCard.tsx';
import { FaultsCard } from './FaultsCard.tsx';
import { FileCard } from './FileCard.tsx';
import { HealthCard } from './HealthCard.tsx';
import { LinesCard } from './LinesCard.tsx';
import { MakeLink } from './MakeLink.tsx';
import { PushCard } from './PushCard.tsx';
import { TopicCard } from './TopicCard.tsx';

/** Where the readings come from, how well they come, and how their lines are read. */
export function LinkPage() {
  const { gadget, link } = useBench();
  const [remove, removing] = useRemoveLinkMutation();
  /** Told once, when the link is made or its token renewed; a page that is left forgets it. */
  const [token, setToken] = useState<string | null>(null);
  return (
    <>
      <PageHead
        title="Link"
        gadget={gadget}
        subtitle={link ? KINDS[link.kind] : 'Where the readings come from'}
      >
        {link && (
          <button type="button" className="btn btn-ghost btn-sm" onClick={() => void remove(gadget.id)}>
            Remove link
          </button>
        )}
      </PageHead>
      <ProblemNote problem={problemOf(removing.error)} />
      {!link ? (
        <MakeLink gadget={gadget} onToken={setToken} />
      ) : (
        <div className="grid items-start gap-4 xl:grid-cols-[1fr_21rem]">
          <div className="order-2 grid min-w-0 gap-4 xl:order-1">
            <HealthCard gadget={gadget} link={link} />
            <LinesCard key={link.id} gadget={gadget} link={link} />
          </div>
          <div className="order-1 grid min-w-0 gap-4 xl:order-2">
            {link.kind === 'simulated' && (
              <>
                <LinkCard gadget={gadget} link={link} />
                <FaultsCard gadget={gadget} link={link} />
              </>
            )}
            {link.kind === 'push' && (
              <PushCard gadget={gadget} link={link} token={token} onToken={setToken} />
            )}
            {link.kind === 'mqtt' && (
              <TopicCard gadget={gadget} link={link} token={token} onToken={setToken} />
            )}
            {link.kind === 'file' && <FileCard gadget={gadget} link={link} />}
            {link.kind === 'serial' && <CableCard gadget={gadget} link={link} />}
          </div>
        </div>
      )}
    </>
  );
}

const KINDS = {
  simulated: 'Simulated gadget',
  push: 'Gadget sends over HTTP',
  mqtt: 'MQTT topic',
  file: 'Log file',
  serial: 'Serial cable on this computer',
} as const;
