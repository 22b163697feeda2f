import { randomBytes } from 'node:crypto';
import { createServer, type AddressInfo, type Server, type Socket } from 'node:net';
import { Aedes, type AuthenticateError, type Client } from 'aedes';
import { Guesses } from '../http/guesses.ts';
import { sameSecret } from '../http/sameSecret.ts';
import { packetLimit } from './packetLimit.ts';

export interface Broker {
  readonly address: string;
  /** What the bench itself connects with, to listen. */
  readonly user: string;
  readonly password: string;
  close(): Promise<void>;
}

/** Who may publish what. */
export interface BrokerRights {
  /** Whether this is the password of the link with this id. */
  fits(linkId: string, password: string): boolean;
  /** What the link follows now; null when it is gone. */
  topicOf(linkId: string): string | null;
  /** What its alarms are told under; null when it is gone, or they are not told. */
  alarmsOf(linkId: string): string | null;
}

/** A message is a line or several: longer ones are refused, and their connection ends. */
const MAX_PACKET = 65_536;
const MAX_CLIENTS = 500;
const BENCH = 'bench';

/** Who a connection belongs to: the bench, or a link. */
const users = new WeakMap<Client, string>();

/**
 * The bench's own broker, so that a topic can be followed at once. A gadget shows the id and the token of its link, and may
 * publish under what that link follows, nothing else, and listen to its own alarms; nothing is retained.
 * @param port 0 for any free one
 * @throws when the port is taken
 */
export async function startBroker(host: string, port: number, rights: BrokerRights): Promise<Broker> {
  const secret = randomBytes(24).toString('base64url');
  const guesses = new Guesses();
  const aedes = await Aedes.createBroker({
    preConnect: (_client, _packet, done) => done(null, aedes.connectedClients < MAX_CLIENTS),
    authenticate(client, user = '', given = Buffer.alloc(0), done) {
      const address = (client.conn as Socket).remoteAddress ?? '';
      const password = given.toString('utf8');
      const isRight =
        !guesses.isHeld(address) &&
        (user === BENCH ? sameSecret(password, secret) : rights.fits(user, password));
      if (isRight) {
        users.set(client, user);
        return done(null, true);
      }
      guesses.wrong(address);
      const error = new Error(
        'Wrong user name or password: use the link’s id and token.',
      ) as AuthenticateError;
      // Bad user name or password, as the standard counts it.
      error.returnCode = 4;
      done(error, false);
    },
    authorizePublish(client, packet, done) {
      // What is retained would stay in memory for ever.
      packet.retain = false;
      const user = client && users.get(client);
      const topic = user && rights.topicOf(user);
      if (user === BENCH || (topic && isUnder(packet.topic, topic))) done(null);
      else done(new Error('This link may publish only under its own topic.'));
    },
    authorizeSubscribe(client, subscription, done) {
      const user = client && users.get(client);
      const isOwn = user && subscription.topic === rights.alarmsOf(user);
      done(null, user === BENCH || isOwn ? subscription : null);
    },
  });
  aedes.on('clientError', () => undefined);
  aedes.on('connectionError', () => undefined);
  const server: Server = createServer((socket) => {
    const isTooLong = packetLimit(MAX_PACKET);
    socket.on('error', () => socket.destroy());
    socket.on('data', (piece: Buffer) => {
      if (isTooLong(piece)) socket.destroy();
    });
    aedes.handle(socket);
  });
  server.maxConnections = 2 * MAX_CLIENTS;
  await new Promise<void>((done, fail) => {
    server.once('error', fail);
    server.listen(port, host, done);
  });
  const { port: used } = server.address() as AddressInfo;
  return {
    address: `mqtt://${host}:${used}`,
    user: BENCH,
    password: secret,
    async close() {
      await new Promise<void>((done) => aedes.close(() => done()));
      await new Promise<void>((done) => server.close(() => done()));
    },
  };
}

/** Whether a topic lies under what a link follows, "+" and "#" and all. */
export function isUnder(topic: string, followed: string): boolean {
  const [levels, wanted] = [topic.split('/'), followed.split('/')];
  for (const [k, part] of wanted.entries()) {
    if (part === '#') return true;
    if (k >= levels.length || (part !== '+' && part !== levels[k])) return false;
  }
  return levels.length === wanted.length;
}
