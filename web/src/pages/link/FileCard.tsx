import { useState } from 'react';
import type { Gadget, Link } from '@lucky-needle/core/model';
import { usePatchLinkMutation } from '../../api/linkApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { Text } from './MakeLink.tsx';

/** The file that is followed. */
export function FileCard({ gadget, link }: { gadget: Gadget; link: Link }) {
  const settings = link.settings.kind === 'file' ? link.settings : null;
  const [patch, patching] = usePatchLinkMutation();
  const [path, setPath] = useState(settings?.path ?? '');
  if (!settings) return null;
  return (
    <section className="panel grid gap-3" aria-label="Log file">
      <h2 className="section-title">Log file</h2>
      <p className="muted text-sm">
        New lines are read as they are added; if the file is emptied or replaced, it is read from its start.
        Import what it held before on the Runs page.
      </p>
      <ProblemNote problem={problemOf(patching.error)} />
      <form
        className="grid gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          void patch({ gadgetId: gadget.id, patch: { settings: { kind: 'file', path: path.trim() } } });
        }}
      >
        <Text label="File path" value={path} onChange={setPath} placeholder="/home/me/kiln.log" />
        <button
          className="btn btn-sm justify-self-start"
          disabled={path.trim() === '' || path.trim() === settings.path || patching.isLoading}
        >
          Follow this file
        </button>
      </form>
    </section>
  );
}
