import type { Route } from '../http/route.ts';
import type { Services } from '../services/services.ts';

/** What a gadget shows and sounds. */
export function faceRoutes({ faceHeader }: Services): Route[] {
  return [
    {
      method: 'get',
      path: '/api/gadgets/:id/face/header',
      summary: 'The alarms, and the rows of a display of characters, as a C header for the gadget itself',
      media: 'text/x-c',
      async handle(request, response) {
        const { name, text } = await faceHeader(request.params['id']!);
        response.setHeader('Content-Disposition', `attachment; filename="${name}"`);
        response.type('text/x-c; charset=utf-8').send(text);
      },
    },
  ];
}
