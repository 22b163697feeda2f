import { RestoreProgress } from '@lucky-needle/core/model';
import { Type } from 'typebox';
import type { Route } from '../http/route.ts';
import type { Services } from '../services/services.ts';

export function workspaceRoutes({ workspace }: Services): Route[] {
  return [
    {
      method: 'get',
      path: '/api/workspace/backup',
      summary: 'The whole workspace as one file, with its checksum, while everything goes on',
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
      summary: 'Put a backup, sent as the body, in the place of everything that is here',
      answer: Type.Object({ createdAt: Type.String(), setAside: Type.String() }),
      handle: (request) => workspace.restore(request),
    },
    {
      method: 'get',
      path: '/api/workspace/restore',
      summary: 'How far a restore has come',
      answer: RestoreProgress,
      handle: async () => workspace.progress(),
    },
    {
      method: 'post',
      path: '/api/workspace/bring-back',
      summary: 'Put back what was here before the last restore; what is here now is set aside in its turn',
      handle: async () => {
        await workspace.bringBack();
        return undefined;
      },
    },
  ];
}
