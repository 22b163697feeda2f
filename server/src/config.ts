import { homedir } from 'node:os';
import { delimiter, resolve } from 'node:path';

export interface ServerConfig {
  readonly dataDir: string;
  readonly host: string;
  readonly port: number;
  /** Asked of every request when the server listens beyond this machine. */
  readonly passphrase: string | null;
  /** Further names by which a browser may call the server. */
  readonly names: readonly string[];
  /** Of the bench's own broker, started when a link first asks for it; 0 for any free one. */
  readonly mqttPort: number;
  /** Folders below which log files may be followed. */
  readonly followDirs: readonly string[];
  /** Folder of the built web app; null when it is served by something else. */
  readonly webDir: string | null;
  /** Origin of the development server, allowed besides the own one. */
  readonly devOrigin: string | null;
}

/** A setting that cannot work; the message names the variable, the rule and the way out. */
export class ConfigError extends Error {
  override readonly name = 'ConfigError';
}

const LOOPBACK = ['127.0.0.1', 'localhost', '::1'];

/**
 * Reads the settings from the environment.
 * @throws {ConfigError} for a port that is none, or a bind beyond this machine without a passphrase
 */
export function readConfig(env: NodeJS.ProcessEnv, webDir: string | null): ServerConfig {
  const port = portOf(env, 'PORT', 4640);
  const host = env['HOST'] ?? '127.0.0.1';
  const passphrase = env['LUCKY_NEEDLE_PASSPHRASE'] ?? null;
  if (!LOOPBACK.includes(host) && (passphrase === null || passphrase.length < 12)) {
    throw new ConfigError(
      `HOST=${host} lets other computers reach this server, so a passphrase is required. Set LUCKY_NEEDLE_PASSPHRASE to at least 12 characters, or leave HOST at 127.0.0.1.`,
    );
  }
  return {
    dataDir: resolve(env['LUCKY_NEEDLE_DATA'] ?? './data'),
    host,
    port,
    passphrase,
    names: (env['LUCKY_NEEDLE_NAMES'] ?? '')
      .split(',')
      .map((n) => n.trim())
      .filter(Boolean),
    mqttPort: portOf(env, 'MQTT_PORT', 1883),
    followDirs: (env['LUCKY_NEEDLE_FOLLOW'] ?? homedir())
      .split(delimiter)
      .filter(Boolean)
      .map((d) => resolve(d)),
    webDir,
    devOrigin: env['LUCKY_NEEDLE_DEV_ORIGIN'] ?? null,
  };
}

function portOf(env: NodeJS.ProcessEnv, name: string, usual: number): number {
  const port = Number(env[name] ?? usual);
  if (!Number.isInteger(port) || port < 0 || port > 65535)
    throw new ConfigError(`${name} must be a whole number from 0 to 65535; received "${env[name]}".`);
  return port;
}
