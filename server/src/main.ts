import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { ConfigError, readConfig } from './config.ts';
import { DataFolderError } from './db/open.ts';
import { databaseProblem, ProblemError } from './http/problem.ts';
import { startServer } from './start.ts';

/** Exit code that says: start me again (EX_SOFTWARE of sysexits.h). */
const BROKEN = 70;

const here = dirname(fileURLToPath(import.meta.url));
const builtWeb = join(here, '../../web/dist');

try {
  const config = readConfig(process.env, existsSync(join(builtWeb, 'index.html')) ? builtWeb : null);
  const server = await startServer(config, {
    loadMillWhenEmpty: process.argv.includes('--demo'),
    withoutPast: process.argv.includes('--without-past'),
  });
  for (const name of server.recovered) {
    console.log(
      `Run "${name}" was still open because the server had stopped unexpectedly. It has been closed; its readings are safe.`,
    );
  }
  console.log(`Lucky Needle is running at ${server.url}`);
  console.log(`Data folder: ${config.dataDir}`);
  let stopping = false;
  const stop = (code: number, patienceMs: number) => {
    // Asked twice, or busy with what does not end: what is on disk is whole at any moment.
    if (stopping) process.exit(code || 1);
    stopping = true;
    setTimeout(() => {
      console.error(`Something did not stop within ${patienceMs / 1000} seconds; exiting anyway.`);
      process.exit(code || 1);
    }, patienceMs).unref();
    void server.close().finally(() => process.exit(code));
  };
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => stop(0, 20_000));
  // Whoever started it is gone: nobody would end it.
  if (process.send) process.on('disconnect', () => stop(0, 20_000));
  // One mistake of ours must not lose what came in: recorders are flushed, and whoever started us starts us again.
  for (const event of ['uncaughtException', 'unhandledRejection'] as const) {
    process.on(event, (error: unknown) => {
      console.error('Internal error. The server is saving incoming data and will stop.', error);
      stop(BROKEN, 10_000);
    });
  }
} catch (error) {
  if (error instanceof ConfigError || error instanceof DataFolderError) {
    console.error(`Lucky Needle could not start: ${error.message}`);
    process.exit(1);
  }
  // The database or the disk refused something on the way.
  const known = databaseProblem(error);
  if (known instanceof ProblemError) {
    console.error(`Lucky Needle could not start: ${known.problem.detail} ${known.problem.wayOut}`);
    process.exit(1);
  }
  throw error;
}
