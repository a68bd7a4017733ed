/**
 * The web process: Next.js behind a small server of our own, which passes the live socket on to the player. Next's
 * rewrites are fixed when it is built; here the player's port is known when it starts (docs/decisions/0003).
 */
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { createServer as createSecureServer } from 'node:https';
import { connect, createServer as createListener, type Server, type Socket } from 'node:net';
import type { Duplex } from 'node:stream';
import next from 'next';
import { SHOW_FILE_LIMIT } from '../core/formats/show-file.ts';
import { SOUND_BYTES } from '../core/sounds/rows.ts';
import { connect as connectDatabase } from '../store/database.ts';
import { playerAddress } from '../store/players.ts';
import { answerPlain, ROOT_PATH } from './trust.ts';
import { guardConsole, makeLog, surviveDatabase } from '../store/survive.ts';

const port = Number(process.env.WINGMAN_PORT ?? 4600);
const host = process.env.WINGMAN_HOST ?? '127.0.0.1';
const ownPlayer = `127.0.0.1:${Number(process.env.WINGMAN_PLAYER_PORT)}`;
guardConsole();
surviveDatabase(makeLog('web'));
const { db } = connectDatabase(process.env.DATABASE_URL, 2);
const REFUSE_BODY_ABOVE = 8 * 1024 * 1024;
/** Show files are larger than anything else that is sent. */
const SHOW_FILE = /^\/api\/(?:shows\/import|incoming)$/;
/** With the sounds of a show in it. */
const REFUSE_FILE_ABOVE = SHOW_FILE_LIMIT;
const SOUND_FILE = /^\/api\/shows\/[A-Za-z0-9-]+\/sounds$/;
/** Up to here an oversized body is read and thrown away, so that its sender gets to read the answer. */
const HANG_UP_ABOVE = 128 * 1024 * 1024;

/** A sound of two hours over a slow wireless network. */
const SLOW_BODY = { requestTimeout: 45 * 60_000 };

const app = next({
  dev: false,
  hostname: host,
  port,
  dir: process.env.WINGMAN_ROOT ?? process.cwd(),
});
const pages = app.getRequestHandler();
await app.prepare();

const HEADERS: Record<string, string> = {
  'x-content-type-options': 'nosniff',
  'x-frame-options': 'DENY',
  'referrer-policy': 'same-origin',
  // Timecode as sound is heard by a page of ours, where a person lets it.
  'permissions-policy': 'camera=(), microphone=(self), geolocation=()',
  // Next.js writes its page data as inline scripts; everything else comes from here alone.
  'content-security-policy':
    "default-src 'self'; media-src 'self' data: blob:; script-src 'self' 'unsafe-inline'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; font-src 'self'; connect-src 'self' ws: wss:; worker-src 'self' blob:; frame-ancestors 'none'; base-uri 'self'; form-action 'self'; object-src 'none'",
};

/** How long a body may be that is sent to this path. */
function mostBytes(path: string): number {
  if (SHOW_FILE.test(path)) return REFUSE_FILE_ABOVE;
  return SOUND_FILE.test(path) ? SOUND_BYTES : REFUSE_BODY_ABOVE;
}

function answer(request: IncomingMessage, response: ServerResponse): void {
  // For the supervisor: this process runs, whatever the database does.
  if (request.url === '/alive') {
    response.end('alive');
    return;
  }
  for (const [name, value] of Object.entries(HEADERS)) response.setHeader(name, value);
  const path = (request.url ?? '').split('?')[0] ?? '';
  const most = mostBytes(path);
  if (Number(request.headers['content-length'] ?? 0) > most) {
    turnAway(request, response, most);
    return;
  }
  // What a client says of its own address does not count.
  request.headers['x-wingman-client'] = request.socket.remoteAddress ?? '';
  void pages(request, response);
}

function turnAway(request: IncomingMessage, response: ServerResponse, most: number): void {
  const say = (): void => {
    response.writeHead(413, { 'content-type': 'application/json', connection: 'close' });
    response.end(
      JSON.stringify({
        error: {
          code: 'too-large',
          message: `A request has at most ${most / 1024 / 1024} MB. Nothing was changed.`,
        },
      }),
    );
  };
  if (Number(request.headers['content-length']) > HANG_UP_ABOVE) say();
  else request.on('end', say);
  request.resume();
}

const sameOrigin = (request: IncomingMessage): boolean => {
  const { origin } = request.headers;
  if (origin === undefined) return true;
  try {
    return new URL(origin).host === request.headers.host;
  } catch {
    return false;
  }
};

/** Hands a socket over to the player byte by byte. */
function passOn(request: IncomingMessage, socket: Duplex, head: Buffer): void {
  const refuse = (status: string): void =>
    void socket.end(`HTTP/1.1 ${status}\r\nConnection: close\r\n\r\n`);
  if (new URL(request.url ?? '/', 'http://web').pathname !== '/live')
    return refuse('404 Not Found');
  if (!sameOrigin(request)) return refuse('403 Forbidden');
  void playerAddress(db)
    .catch(() => null)
    .then((address) => join(address ?? ownPlayer, request, socket, head, refuse));
}

function join(
  address: string,
  request: IncomingMessage,
  socket: Duplex,
  head: Buffer,
  refuse: (status: string) => void,
): void {
  const colon = address.lastIndexOf(':');
  const player = connect(Number(address.slice(colon + 1)), address.slice(0, colon), () => {
    const lines = [`${request.method} ${request.url} HTTP/1.1`];
    for (let i = 0; i < request.rawHeaders.length; i += 2)
      lines.push(`${request.rawHeaders[i]}: ${request.rawHeaders[i + 1]}`);
    player.write(`${lines.join('\r\n')}\r\n\r\n`);
    if (head.length > 0) player.write(head);
    player.pipe(socket).pipe(player);
  });
  player.setNoDelay(true);
  (socket as Socket).setNoDelay(true);
  player.on('error', () => (socket.writable ? refuse('502 Bad Gateway') : socket.destroy()));
  socket.on('error', () => player.destroy());
  socket.on('close', () => player.destroy());
  player.on('close', () => socket.destroy());
}

/** A TLS connection begins with a handshake record (RFC 8446, 5.1). */
const HANDSHAKE = 0x16;
/** Whoever connects and says nothing is hung up on. */
const SILENT_MS = 10_000;

const tls = process.env.WINGMAN_TLS_CERT
  ? {
      cert: process.env.WINGMAN_TLS_CERT,
      key: process.env.WINGMAN_TLS_KEY,
      root: process.env.WINGMAN_TLS_ROOT ?? null,
    }
  : null;

/** One port for both: what begins as TLS goes to the pages, anything else is told to trust the house first. */
function bothOn({ cert, key, root }: NonNullable<typeof tls>): Server {
  const secure = createSecureServer({ cert, key, ...SLOW_BODY }, (request, response) => {
    // Whether there is something to trust is asked by the codes for phones.
    if (request.url === ROOT_PATH) answerPlain(root, request, response);
    else answer(request, response);
  });
  secure.on('upgrade', passOn);
  const plain = createServer((request, response) => answerPlain(root, request, response));
  plain.on('upgrade', (_, socket) => socket.destroy());
  const listener = createListener((socket) => {
    const hangUp = (): void => void socket.destroy();
    socket.setTimeout(SILENT_MS, hangUp);
    socket.on('error', hangUp);
    socket.once('data', (first) => {
      socket.setTimeout(0);
      socket.removeListener('timeout', hangUp);
      socket.pause();
      socket.unshift(first);
      (first[0] === HANDSHAKE ? secure : plain).emit('connection', socket);
      // Whoever has it now listens from the next turn on.
      process.nextTick(() => socket.resume());
    });
  });
  closing.push(() => {
    secure.closeAllConnections();
    plain.closeAllConnections();
  });
  return listener;
}

const closing: (() => void)[] = [];
function plainWeb(): Server {
  const only = createServer(SLOW_BODY, answer);
  only.on('upgrade', passOn);
  closing.push(() => only.closeAllConnections());
  return only;
}
const web = tls ? bothOn(tls) : plainWeb();
web.on('error', (error) => {
  console.error(`The web process cannot listen on ${host}:${port}: ${error.message}`);
  process.exit(1);
});
web.listen(port, host);

function stop(): void {
  for (const close of closing) close();
  web.close(() => process.exit(0));
  setTimeout(() => process.exit(0), 1000).unref();
}
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
