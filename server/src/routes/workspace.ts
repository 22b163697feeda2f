import { RestoreProgress } from '@lucky-needle/core/model';
import { Type } from 'typebox';
import type { Route } from '../http/route.ts';
import type { Services } from '../services/services.ts';

export function workspaceRoutes({ workspace }: Services): Route[] {
  return [
    {
      method: 'get',
      path: '/api/workspace/backup',
      summary: 'Back up the whole workspace as one file with a checksum, without interrupting recording',
      media: 'application/zip',
      async handle(_request, response) {
        const day = new Date().toISOString().slice(0, 10);
        response.setHeader('Content-Disposition', `attachment; filename="lucky-needle-${day}.zip"`);
        response.type('application/zip');
        await workspace.backup(response);
      },
    },
    {
      method: 'post',
      path: '/api/workspace/restore',
      summary: 'Restore a backup, sent as the request body; it replaces the whole workspace',
      answer: Type.Object({ createdAt: Type.String(), setAside: Type.String() }),
      handle: (request) => workspace.restore(request),
    },
    {
      method: 'get',
      path: '/api/workspace/restore',
      summary: 'Progress of a restore',
      answer: RestoreProgress,
      handle: async () => workspace.progress(),
    },
    {
      method: 'post',
      path: '/api/workspace/bring-back',
      summary: 'Undo the last restore; the present workspace is set aside in turn',
      handle: async () => {
        await workspace.bringBack();
        return undefined;
      },
    },
  ];
}
