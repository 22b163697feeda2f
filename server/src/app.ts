import { join } from 'node:path';
import compression from 'compression';
import express, { type ErrorRequestHandler, type Express } from 'express';
import { rateLimit } from 'express-rate-limit';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { Type } from 'typebox';
import type { ServerConfig } from './config.ts';
import { databaseProblem, ProblemError } from './http/problem.ts';
import { openApi } from './http/openapi.ts';
import { register, type Route } from './http/route.ts';
import { guard, signIn } from './http/security.ts';
import { countsRoutes } from './routes/counts.ts';
import { cutRoutes } from './routes/cuts.ts';
import { damagedRoutes } from './routes/damaged.ts';
import { gadgetRoutes } from './routes/gadgets.ts';
import { dueRoutes } from './routes/due.ts';
import { ownReferenceRoutes } from './routes/ownReferences.ts';
import { partRoutes } from './routes/parts.ts';
import { importRoutes } from './routes/imports.ts';
import { linkRoutes } from './routes/links.ts';
import { faceRoutes } from './routes/face.ts';
import { liveRoutes } from './routes/live.ts';
import { proofRoutes } from './routes/proof.ts';
import { studyRoutes } from './routes/studies.ts';
import { runPlanRoutes } from './routes/runPlans.ts';
import { trialRoutes } from './routes/trials.ts';
import { logbookRoutes } from './routes/logbook.ts';
import { readingsRoutes } from './routes/readings.ts';
import { recordingRoutes } from './routes/recordings.ts';
import { gatheringRoutes } from './routes/gatherings.ts';
import { sharedActRoutes } from './routes/sharedActs.ts';
import { trueUpRoutes } from './routes/trueUp.ts';
import { workspaceRoutes } from './routes/workspace.ts';
import type { Bench } from './services/bench.ts';
import type { Services } from './services/services.ts';

export function createApp(config: ServerConfig, bench: Bench, services: Services, log: Logger): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'self'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:'],
          workerSrc: ["'self'"],
          connectSrc: ["'self'", 'ws:', 'wss:'],
          objectSrc: ["'none'"],
          baseUri: ["'none'"],
          formAction: ["'self'"],
          frameAncestors: ["'none'"],
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.post('/sign-in', express.urlencoded({ extended: false, limit: 4096 }), signIn(config));
  app.use(guard(config));
  app.use(
    '/api',
    rateLimit({
      windowMs: 10_000,
      limit: 1000,
      standardHeaders: true,
      legacyHeaders: false,
      validate: false,
      // Each gadget that pushes has its own, or a hundred of them would use up the pages' share.
      keyGenerator: (request) =>
        /^\/push\/([\w-]{1,64})/.exec(request.path)?.[1] ?? request.socket.remoteAddress ?? '',
    }),
  );
  app.use(compression());
  app.use('/api', express.json({ limit: '1mb', type: 'application/json' }));

  const routes: Route[] = [
    {
      method: 'get',
      path: '/api/health',
      summary: 'Check that the server is running',
      answer: Type.Object({ ok: Type.Boolean() }),
      handle: async () => ({ ok: true }),
    },
    ...gadgetRoutes(bench, services),
    ...linkRoutes(bench, services),
    ...liveRoutes(services),
    ...faceRoutes(services),
    ...proofRoutes(services),
    ...studyRoutes(services),
    ...trialRoutes(services),
    ...runPlanRoutes(services),
    ...countsRoutes(services),
    ...partRoutes(services),
    ...ownReferenceRoutes(services),
    ...dueRoutes(bench, services),
    ...trueUpRoutes(bench, services),
    ...gatheringRoutes(services),
    ...sharedActRoutes(services),
    ...recordingRoutes(bench, services),
    ...readingsRoutes(services),
    ...cutRoutes(services),
    ...importRoutes(services),
    ...workspaceRoutes(services),
    ...damagedRoutes(services),
    ...logbookRoutes(bench, services),
  ];
  register(app, routes);
  app.get('/api/openapi.json', (_request, response) => {
    response.json(openApi(routes));
  });
  app.use('/api', (request) => {
    throw new ProblemError(
      404,
      'no-route',
      'Not found',
      `The API has no endpoint ${request.method} ${request.originalUrl.split('?')[0]}.`,
      'See /api/openapi.json for the list of endpoints.',
    );
  });
  if (config.webDir) serveWeb(app, config.webDir);
  app.use(answerProblems(log));
  return app;
}

function serveWeb(app: Express, webDir: string): void {
  app.use(
    '/assets',
    express.static(join(webDir, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }),
  );
  app.use(express.static(webDir, { index: false }));
  // Every other address is a page of the app, which has its own 404.
  app.get('/{*page}', (_request, response) => {
    response.setHeader('Cache-Control', 'no-cache');
    response.sendFile(join(webDir, 'index.html'));
  });
}

function answerProblems(log: Logger): ErrorRequestHandler {
  return (raw, request, response, _next) => {
    // Whoever asked has gone in the middle of the answer.
    if ((raw as { code?: string }).code === 'ERR_STREAM_PREMATURE_CLOSE') return void response.destroy();
    const error: unknown = databaseProblem(raw);
    const problem = error instanceof ProblemError ? error.problem : fromExpress(error);
    if (problem.status >= 500) log.error({ err: error, url: request.originalUrl }, problem.detail);
    if (response.headersSent) {
      response.destroy();
      return;
    }
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
  };
}

/** Errors that Express itself raises: unreadable JSON, too large a body; anything else is our own mistake. */
function fromExpress(error: unknown) {
  const { type, status } = error as { type?: string; status?: number };
  if (type === 'entity.parse.failed') {
    return new ProblemError(
      400,
      'not-json',
      'Invalid JSON',
      'The request body is not valid JSON.',
      'Send valid JSON.',
    ).problem;
  }
  if (type === 'entity.too.large') {
    return new ProblemError(
      413,
      'too-large',
      'Too large',
      'The request body is larger than 1 MB.',
      'Send the data in smaller parts.',
    ).problem;
  }
  if (status === 404)
    return new ProblemError(404, 'not-found', 'Not found', 'This file does not exist.', 'Reload the page.')
      .problem;
  if (status !== undefined && status >= 400 && status < 500) {
    return new ProblemError(
      status,
      'bad-request',
      'Invalid request',
      (error as Error).message,
      'Correct the request.',
    ).problem;
  }
  return new ProblemError(
    500,
    'internal',
    'Server error',
    'An internal error occurred.',
    'Try again. Details are in the server log. Your stored data is safe.',
  ).problem;
}
