import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Knex } from 'knex';
import { pino, type Logger } from 'pino';
import { createApp } from './app.ts';
import { Links } from './capture/links.ts';
import { LiveHub } from './capture/liveHub.ts';
import { ConfigError, type ServerConfig } from './config.ts';
import { openDatabase } from './db/open.ts';
import { tables } from './db/tables.ts';
import { limitDoor } from './http/doorLimits.ts';
import { pushDoor } from './http/pushDoor.ts';
import type { Bench } from './services/bench.ts';
import { finishDemoMill, loadDemoMill } from './services/mill.ts';
import { MillPastJob } from './services/millPast.ts';
import { createServices } from './services/services.ts';

export interface RunningServer {
  /** The running links and the database, for tests that look inside. */
  readonly links: Links;
  readonly knex: Knex;
  readonly url: string;
  /** Recordings that were left open by an earlier, killed server and have just been closed. */
  readonly recovered: readonly string[];
  close(): Promise<void>;
}

export interface StartOptions {
  readonly loadMillWhenEmpty?: boolean;
  /** The mill's gadgets stay without their weeks of past runs: for tests that look at something else. */
  readonly withoutPast?: boolean;
  readonly log?: Logger;
  /** The time of day, ISO; the system's when not given. */
  readonly now?: () => string;
}

/**
 * Opens the workspace, closes what a killed server left open, starts the links and listens.
 * @throws {DataFolderError | ConfigError} with a message for the maker
 */
export async function startServer(config: ServerConfig, options: StartOptions = {}): Promise<RunningServer> {
  const log = options.log ?? pino({ level: 'warn' });
  const database = await openDatabase(config.dataDir);
  const repositories = tables(database.knex);
  const links = new Links(repositories, {
    host: config.host,
    mqttPort: config.mqttPort,
    followDirs: config.followDirs,
  });
  let hub: LiveHub | null = null;
  let past: MillPastJob | null = null;
  const bench: Bench = {
    knex: database.knex,
    tables: repositories,
    links,
    databaseProblem: database.misplaced,
    followDirs: config.followDirs,
    dataDir: config.dataDir,
    now: options.now ?? (() => new Date().toISOString()),
    changed(gadgetId, what) {
      if (what === 'gadget' || what === 'calibrations')
        void links
          .setUpAgain(gadgetId)
          .catch((error: unknown) => log.error({ err: error }, 'could not restart signal lines'));
      hub?.changed(gadgetId, what);
    },
    pastOwed: () => past?.wake(),
    changedForAll(what) {
      if (what === 'parts') for (const runner of links.all()) void links.setUpAgain(runner.stored.gadgetId);
      hub?.changedForAll(what);
    },
  };
  const services = createServices(bench, database);
  const app = createApp(config, bench, services, log);
  const server = createServer(
    { connectionsCheckingInterval: 5000 },
    pushDoor(config, services.links.push, app, log),
  );
  limitDoor(server);
  try {
    await listen(server, config);
  } catch (error) {
    await database.close();
    throw error;
  }
  hub = new LiveHub(server, links, config);
  const recovered = await services.recordings.recover();
  await services.cuts.purge();
  await services.imports.clear();
  await services.workspace.clear();
  const finished = await finishDemoMill(bench, services);
  if (!finished && options.loadMillWhenEmpty && (await repositories.gadgets.count()) === 0)
    await loadDemoMill(bench, services);
  await links.startAll();
  services.runPlans.watch((error) => log.error({ err: error }, 'could not check run schedules'));
  if (!options.withoutPast) {
    past = new MillPastJob(bench, services, (error) =>
      log.error({ err: error }, 'could not load past runs of a demo gadget'),
    );
    past.wake();
  }
  const { port } = server.address() as AddressInfo;
  return {
    url: `http://${config.host.includes(':') ? `[${config.host}]` : config.host}:${port}`,
    links,
    knex: database.knex,
    recovered: recovered.map((r) => r.name),
    async close() {
      hub.close();
      await past?.stop();
      await services.runPlans.close();
      await services.jobs.close();
      await links.stopAll();
      server.closeAllConnections();
      await new Promise((done) => server.close(done));
      await database.close();
    },
  };
}

function listen(server: ReturnType<typeof createServer>, config: ServerConfig): Promise<void> {
  return new Promise((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) => {
      if (error.code === 'EADDRINUSE') {
        reject(
          new ConfigError(
            `Port ${config.port} on ${config.host} is already in use. Stop the program that uses it, or set PORT to another port.`,
          ),
        );
      } else reject(error);
    });
    server.listen(config.port, config.host, resolve);
  });
}
