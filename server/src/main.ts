import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { ConfigError, readConfig } from './config.ts';
import { DataFolderError } from './db/open.ts';
import { startServer } from './start.ts';

const here = dirname(fileURLToPath(import.meta.url));
const builtWeb = join(here, '../../web/dist');

try {
  const config = readConfig(process.env, existsSync(join(builtWeb, 'index.html')) ? builtWeb : null);
  const server = await startServer(config, { loadMillWhenEmpty: process.argv.includes('--demo') });
  for (const name of server.recovered) {
    console.log(
      `The recording "${name}" was left open by a server that ended without warning. It has been closed; its readings are safe.`,
    );
  }
  console.log(`Lucky Needle is at ${server.url}`);
  console.log(`Data is kept in ${config.dataDir}`);
  let stopping = false;
  for (const signal of ['SIGINT', 'SIGTERM'] as const) {
    process.on(signal, () => {
      // Asked twice, or busy with what does not end: what is on disk is whole at any moment.
      if (stopping) process.exit(1);
      stopping = true;
      setTimeout(() => {
        console.error('Something did not end in twenty seconds; stopping without it.');
        process.exit(1);
      }, 20_000).unref();
      void server.close().then(() => process.exit(0));
    });
  }
} catch (error) {
  if (error instanceof ConfigError || error instanceof DataFolderError) {
    console.error(`Lucky Needle cannot start: ${error.message}`);
    process.exit(1);
  }
  throw error;
}
