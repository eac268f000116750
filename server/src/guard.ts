/** Who may ask: pages of this server only, by names that are this server's. Foreign pages can neither read nor change. */
import type { Express, NextFunction, Request, Response } from 'express';
import helmet from 'helmet';
import { problem } from '@yellowhammer/core/model/problem';
import { refuse } from './http.ts';

/** Names under which the server may be addressed: this machine's own, and those that YELLOWHAMMER_HOSTS lists. */
const own = new Set(['localhost', '127.0.0.1', '[::1]']);
const listed = (): string[] =>
  (process.env['YELLOWHAMMER_HOSTS'] ?? '')
    .split(',')
    .map((h) => h.trim().toLowerCase())
    .filter(Boolean);

const nameOf = (host: string): string => host.toLowerCase().replace(/:\d+$/, '');

/** Why a request is not answered; undefined where it is. */
function objection(req: Request): string | undefined {
  const host = req.headers.host ?? '';
  if (!own.has(nameOf(host)) && !listed().includes(nameOf(host)))
    return `This server is not called ${host.slice(0, 100) || 'nothing'}. Open it as localhost, or list the name in YELLOWHAMMER_HOSTS.`;
  const origin = req.headers.origin;
  if (origin !== undefined && origin.replace(/^https?:\/\//, '').toLowerCase() !== host.toLowerCase()) return 'A page of another origin may not ask here.';
  const site = req.headers['sec-fetch-site'];
  const api = req.path.startsWith('/api');
  if (api && site !== undefined && site !== 'same-origin' && site !== 'none') return 'A page of another site may not ask here.';
  return undefined;
}

/** Checks every request, and sets the headers that keep pages of this server to themselves. */
export function guard(app: Express): void {
  app.disable('x-powered-by');
  // No answer is worth a hash of it: of an opened plan of 34 MB that held everybody up for 40 ms.
  app.disable('etag');
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'"],
          // Components place things by style attributes.
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:', 'blob:'],
          fontSrc: ["'self'", 'data:'],
          connectSrc: ["'self'"],
          workerSrc: ["'self'", 'blob:'],
          objectSrc: ["'none'"],
          baseUri: ["'none'"],
          formAction: ["'self'"],
          frameAncestors: ["'none'"],
        },
      },
      // Served over plain HTTP on the own machine.
      strictTransportSecurity: false,
    }),
  );
  app.use('/api', (_req: Request, res: Response, next: NextFunction) => {
    // Rows are always those of now; a browser need not write them to its disk either.
    res.setHeader('cache-control', 'private, no-store');
    next();
  });
  app.use((req: Request, res: Response, next: NextFunction) => {
    const no = objection(req);
    if (no) return refuse(res, 403, [problem('FOREIGN', no)]);
    const changes = req.method !== 'GET' && req.method !== 'HEAD' && req.method !== 'OPTIONS';
    // A type that a foreign page cannot send without being asked first, also where there is no body.
    if (changes && req.path.startsWith('/api') && !/^application\/json\b/i.test(req.headers['content-type'] ?? ''))
      return refuse(res, 415, [problem('NOT_JSON', 'Send this as application/json.')]);
    next();
  });
}
