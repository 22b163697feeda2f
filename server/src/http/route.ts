import type { Express, Request, Response } from 'express';
import type { TSchema } from 'typebox';
import { answerCheck, bodyCheck } from './validate.ts';

/** One entry of the API: what Express serves and what /api/openapi.json tells. */
export interface Route {
  readonly method: 'get' | 'post' | 'put' | 'patch' | 'delete';
  /** Express path, such as /api/gadgets/:id */
  readonly path: string;
  readonly summary: string;
  readonly body?: TSchema;
  readonly answer?: TSchema;
  /** Status of a good answer; 200 unless said. */
  readonly status?: number;
  /** Kind of a good answer that is no JSON. */
  readonly media?: string;
  /** Returns the JSON answer, or answers by itself and returns undefined. */
  handle(request: Request<Record<string, string>>, response: Response): Promise<unknown>;
}

export function register(app: Express, routes: readonly Route[]): void {
  for (const route of routes) {
    const checkBody = route.body && bodyCheck(route.body);
    const checkAnswer = route.answer && answerCheck(route.answer);
    app[route.method](route.path, async (request, response) => {
      checkBody?.(request.body);
      const answer = await route.handle(request as Request<Record<string, string>>, response);
      if (response.headersSent || answer === undefined) {
        if (!response.headersSent && !response.writableEnded && route.media === undefined)
          response.status(route.status ?? 204).end();
        return;
      }
      checkAnswer?.(answer);
      response.status(route.status ?? 200).json(answer);
    });
  }
}
