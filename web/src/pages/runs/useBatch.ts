import { useRef, useState } from 'react';
import { rawColumns } from '@lucky-needle/core/plan';
import { api } from '../../api/api.ts';
import { importApi } from '../../api/importApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { useAppDispatch } from '../../app/store.ts';
import { useBench } from '../../app/useBench.ts';
import { runNameOf, takenAs, type BatchFile } from './batch.ts';

const LOOK_MS = 250;

/** Brings in files one after the other, a run each; what cannot be taken as it is says so, and the others come in all the same. */
export function useBatch() {
  const { gadget } = useBench();
  const dispatch = useAppDispatch();
  const [files, setFiles] = useState<readonly BatchFile[] | null>(null);
  const isStopped = useRef(false);

  /** @throws {Error} in words, where a file cannot be taken */
  async function bringIn(file: File, told: (note: string) => void): Promise<BatchFile['state']> {
    const raw = rawColumns(gadget);
    const { endpoints } = importApi;
    const sent = await dispatch(endpoints.upload.initiate({ gadgetId: gadget.id, file }));
    if (!sent.data) throw new Error(problemOf(sent.error)?.detail ?? 'Upload failed.');
    const { upload, known } = sent.data;
    const columns = takenAs(sent.data, raw);
    if (known.length > 0 || typeof columns === 'string') {
      await dispatch(endpoints.discardUpload.initiate(upload.id));
      if (typeof columns === 'string') throw new Error(columns);
      return 'already imported';
    }
    const body = { gadgetId: gadget.id, name: runNameOf(file.name), columns };
    const started = await dispatch(endpoints.importUpload.initiate({ id: upload.id, body }));
    if (!started.data) throw new Error(problemOf(started.error)?.detail ?? 'Import failed.');
    for (;;) {
      const { data: job } = await dispatch(
        endpoints.job.initiate(started.data.id, { forceRefetch: true, subscribe: false }),
      );
      if (job?.state === 'done') return 'imported';
      if (job && job.state !== 'running') throw new Error(job.problem?.detail ?? 'Import was interrupted.');
      told(`${Math.round(100 * (job?.progress ?? 0))} %`);
      await new Promise((done) => setTimeout(done, LOOK_MS));
    }
  }

  return {
    files,
    stop: () => (isStopped.current = true),
    close: () => setFiles(null),
    async begin(list: readonly File[]): Promise<void> {
      isStopped.current = false;
      setFiles(list.map(({ name }) => ({ name, state: 'waiting', note: '' })));
      const set = (at: number, change: Partial<BatchFile>) =>
        setFiles((old) => old?.map((f, k) => (k === at ? { ...f, ...change } : f)) ?? null);
      for (const [k, file] of list.entries()) {
        if (isStopped.current) {
          set(k, { state: 'not imported', note: 'The import was stopped before this file.' });
          continue;
        }
        set(k, { state: 'working' });
        try {
          set(k, { state: await bringIn(file, (note) => set(k, { note })), note: '' });
        } catch (error) {
          set(k, { state: 'not imported', note: (error as Error).message });
        }
      }
      dispatch(api.util.invalidateTags(['recordings', 'logbook']));
    },
  };
}
