import { constants } from 'node:zlib';
import etag from '@koa/etag';
import Koa from 'koa';
import compress from 'koa-compress';
import conditional from 'koa-conditional-get';
import send from 'koa-send';
import { strictHeaders } from './strictHeaders';

/** Folders that the server hands out. */
export interface ServerParts {
  /** The built application. */
  appFolder: string;
  /** Pictures of the demo, under /demo/. */
  demoFolder: string;
  /** The same jobs finished, as job files, under /demo/jobs/. */
  jobsFolder: string;
  /** Told of faults of the server's own; what a stranger sees says nothing of them. */
  onFault(error: unknown): void;
  /** Whether files are packed for an address, `isAway` if nothing is said. */
  packsFor?(address: string): boolean;
}

/** Not of this machine itself, where packing takes longer than it saves. */
export const isAway = (address: string): boolean => !/^(::ffff:)?127\.|^::1$/.test(address);

/** Somebody who closes the page before all of a file was sent is no fault of anyone's. */
const LEFT = ['ERR_STREAM_PREMATURE_CLOSE', 'ECONNRESET', 'EPIPE'];
const hasLeft = (error: unknown): boolean => LEFT.includes((error as NodeJS.ErrnoException | null)?.code ?? '');

/** Files named by their content never change. */
const HASHED = /^\/assets\//;
const YEAR_MS = 365 * 24 * 3600 * 1000;
const DEMO_FILE = /^\/demo\/([a-z0-9-]+\.jpg|index\.json)$/;
const DEMO_JOB = /^\/demo\/jobs\/([a-z0-9-]+\.moth|index\.json)$/;

/** Smaller than this, packing saves nothing worth its time, bytes. */
const LEAST_PACKED_BYTES = 1024;
/**
 * Text is packed; compiled programs are not: the modelling kernel, 23 MB, took 2 s to pack, each time that it was fetched, and next to
 * nothing to send as it is.
 */
const isPacked = (type: string): boolean => /^text\/|javascript|json|svg/.test(type);
/** Packed while somebody waits: a middle quality takes a tenth of the time of the best, for a few per cent more bytes. */
const BROTLI = { params: { [constants.BROTLI_PARAM_QUALITY]: 5 } };

/** The server as a function of its parts. It does not listen; whoever calls it does. */
export function createServer({ appFolder, demoFolder, jobsFolder, onFault, packsFor = isAway }: ServerParts): Koa {
  const server = new Koa();
  server.silent = true;
  server.on('error', (error) => hasLeft(error) || onFault(error));
  server.use(async (context, next) => {
    try {
      await next();
    } catch (error) {
      const status = (error as { status?: number }).status ?? 500;
      if (status >= 500) onFault(error);
      context.status = status;
      context.body = status === 404 ? 'Not found' : status < 500 ? 'Bad request' : 'Something went wrong here';
    }
  });
  server.use(strictHeaders);
  // What a browser has already it need not fetch again, and what it has not comes packed where it has a way to go.
  server.use(conditional());
  server.use((context, next) => {
    if (!packsFor(context.req.socket.remoteAddress ?? '')) context.compress = false;
    return next();
  });
  server.use(compress({ filter: isPacked, threshold: LEAST_PACKED_BYTES, br: BROTLI, zstd: false }));
  server.use(etag());
  server.use(async (context) => {
    if (context.method !== 'GET' && context.method !== 'HEAD') {
      context.status = 405;
      context.set('Allow', 'GET, HEAD');
      context.body = 'Only reading is possible here';
      return;
    }
    const demo = DEMO_FILE.exec(context.path);
    if (demo) {
      await send(context, demo[1]!, { root: demoFolder });
      return;
    }
    const job = DEMO_JOB.exec(context.path);
    if (job) {
      await send(context, job[1]!, { root: jobsFolder });
      return;
    }
    // Every path of the application without a dot is one of its screens.
    const file = context.path.includes('.') ? context.path : '/index.html';
    await send(context, file, {
      root: appFolder,
      maxage: HASHED.test(file) ? YEAR_MS : 0,
      immutable: HASHED.test(file),
    });
    if (!HASHED.test(file)) context.set('Cache-Control', 'no-cache');
  });
  return server;
}
