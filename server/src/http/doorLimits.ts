import type { Server } from 'node:http';
import type { Socket } from 'node:net';

/** Connections at once: a hundred pages and several hundred gadgets that push. */
const CONNECTIONS = 1000;
/** Longer than a client keeps a connection that it will use again, or it is closed under the next request. */
const KEEP_ALIVE_MS = 65_000;
/** A request says what it wants within this; one that does not is half open and would stay for ever. */
const HEADERS_MS = 20_000;
/** A body may take hours to come in, but not stand still so long. */
const SILENCE_MS = 180_000;

const STATUS: Readonly<Record<string, string>> = {
  HPE_HEADER_OVERFLOW: '431 Request Header Fields Too Large',
  ERR_HTTP_REQUEST_TIMEOUT: '408 Request Timeout',
};

/** Bounds what connections may cost, however they are broken. */
export function limitDoor(server: Server, { headersMs = HEADERS_MS, silenceMs = SILENCE_MS } = {}): void {
  server.maxConnections = CONNECTIONS;
  server.keepAliveTimeout = KEEP_ALIVE_MS;
  server.headersTimeout = headersMs;
  // A file of gigabytes may take its time to come in: silence is what ends it.
  server.requestTimeout = 0;
  server.setTimeout(silenceMs, (socket: Socket) => socket.destroy());
  server.on('clientError', (error: NodeJS.ErrnoException, socket) => {
    if (error.code === 'ECONNRESET' || !socket.writable) return void socket.destroy();
    const status = STATUS[error.code ?? ''] ?? '400 Bad Request';
    socket.end(`HTTP/1.1 ${status}\r\nConnection: close\r\nContent-Length: 0\r\n\r\n`);
  });
  // A client that goes away in the middle of anything is no event.
  server.on('connection', (socket: Socket) => socket.on('error', () => socket.destroy()));
}
