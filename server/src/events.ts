/** Server-sent events: every entry after the revision that a window knows, and then each new one. */
import type { Request, Response } from 'express';
import { problem } from '@yellowhammer/core/model/problem';
import { notThere, refuse } from './http.ts';
import type { Store } from './store.ts';

/** Open connections of all windows together, and what may wait in one of them before it is closed. */
const MOST_OPEN = 500;
const MOST_WAITING = 8_000_000;
let open = 0;

/** A window that missed too much, or reads too slowly, is told to open the project anew instead of being sent everything. */
export function events(store: Store, req: Request<{ id: string }>, res: Response): void {
  const { id } = req.params;
  const head = store.there(id);
  if (!head) return notThere(res);
  if (open >= MOST_OPEN) return refuse(res, 503, [problem('TOO_MANY_WINDOWS', `${MOST_OPEN} windows are open already. Close some of them.`)]);
  if (req.method === 'HEAD') return void res.type('text/event-stream').end();
  open++;
  res.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-cache', connection: 'keep-alive' });
  const since = Number(req.query['since']);
  const send = (e: unknown): void => {
    if (res.writableLength > MOST_WAITING) {
      // Whoever does not read for so long hears of it by the end of the connection, and opens a new one.
      res.destroy();
      return;
    }
    res.write(`data: ${JSON.stringify(e)}\n\n`);
  };
  res.write(': open\n\n');
  const missed = store.missed(id, Number.isInteger(since) && since >= 0 ? since : head.revision);
  if (missed === null) res.write('event: anew\ndata: {}\n\n');
  else for (const e of missed) send(e);
  const stop = store.listen(id, (e) => ('anew' in e ? void res.write(`event: anew\ndata: ${JSON.stringify({ client: e.client })}\n\n`) : send(e)));
  const beat = setInterval(() => res.write(': beat\n\n'), 15_000);
  res.on('close', () => {
    open--;
    clearInterval(beat);
    stop();
  });
}
