import { Problem } from '@lucky-needle/core/model';
import type { Route } from './route.ts';

/** The API as OpenAPI 3.1, from the same routes and schemas that serve it. */
export function openApi(routes: readonly Route[]): object {
  const paths: Record<string, Record<string, object>> = {};
  for (const route of routes) {
    const path = route.path.replace(/:(\w+)/g, '{$1}');
    const json = (schema: object) => ({ 'application/json': { schema } });
    const status = String(route.status ?? (route.answer || route.media ? 200 : 204));
    const content = route.answer ? json(route.answer) : route.media ? { [route.media]: {} } : undefined;
    paths[path] ??= {};
    paths[path][route.method] = {
      summary: route.summary,
      parameters: [...route.path.matchAll(/:(\w+)/g)].map(([, name]) => ({
        name,
        in: 'path',
        required: true,
        schema: { type: 'string' },
      })),
      ...(route.body ? { requestBody: { required: true, content: json(route.body) } } : {}),
      responses: {
        [status]: { description: 'Success', ...(content ? { content } : {}) },
        default: { description: 'Error', content: { 'application/problem+json': { schema: Problem } } },
      },
    };
  }
  return { openapi: '3.1.0', info: { title: 'Lucky Needle', version: '1' }, paths };
}
