import { randomUUID } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';
import type { LevelWithSilent, Logger } from 'pino';
import { ROUTES } from '@folvex/contract';
import { pinoHttp, type HttpLogger } from 'pino-http';
import { errorForLog } from '../work/log';

/** A proxy in front may have given a request an id already; anything that is not like one is replaced. */
const ID = /^[\w-]{8,64}$/;

/**
 * Logs each request with an id of its own, which its answer and all that is logged about it have too: method, address,
 * status and time. Neither headers nor contents, which hold passwords and drawings.
 */
export function requestLog(logger: Logger): HttpLogger {
  return pinoHttp<IncomingMessage, ServerResponse, never>({
    logger,
    genReqId: (request: IncomingMessage, response: ServerResponse) => {
      const given = String(request.headers['x-request-id'] ?? '');
      const id = ID.test(given) ? given : randomUUID();
      response.setHeader('X-Request-Id', id);
      return id;
    },
    serializers: {
      req: ({ id, method, url }: { id: unknown; method: string; url: string }) => ({ id, method, url: pathOf(url) }),
      res: ({ statusCode }: { statusCode: number }) => ({ statusCode }),
      err: ({ raw }: { raw: unknown }) => errorForLog(raw),
    },
    // Not ready is an answer, and asked for every few seconds.
    customLogLevel: (request, { statusCode }, error): LevelWithSilent =>
      error || (statusCode >= 500 && request.url !== ROUTES.ready) ? 'error' : 'info',
  });
}

/** An address without what nobody else is to see: its query, and the secrets of invitations and of recipients' pages. */
function pathOf(url: string): string {
  return url.split('?', 1)[0]!.replace(/^(\/join|\/api\/invitations|\/files|\/api\/recipient-pages)\/.*/, '$1/…');
}
