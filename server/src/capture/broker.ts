import { createServer, type AddressInfo, type Server } from 'node:net';
import { Aedes } from 'aedes';

export interface Broker {
  readonly address: string;
  close(): Promise<void>;
}

/**
 * The bench's own broker, so that a topic can be followed at once.
 * @param port 0 for any free one
 * @throws when the port is taken
 */
export async function startBroker(host: string, port: number): Promise<Broker> {
  const aedes = await Aedes.createBroker();
  const server: Server = createServer(aedes.handle);
  await new Promise<void>((done, fail) => {
    server.once('error', fail);
    server.listen(port, host, done);
  });
  const { port: used } = server.address() as AddressInfo;
  return {
    address: `mqtt://${host}:${used}`,
    async close() {
      await new Promise<void>((done) => aedes.close(() => done()));
      await new Promise<void>((done) => server.close(() => done()));
    },
  };
}
