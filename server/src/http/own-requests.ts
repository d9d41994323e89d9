import type { Request, RequestHandler } from 'express';
import { Refused } from '../errors';
import { isLoopback } from '../model/loopback';

/** Methods that change nothing (RFC 9110, 9.2.1). */
const SAFE = new Set(['GET', 'HEAD', 'OPTIONS']);

/**
 * Refuses requests to host names other than loopback ones and those given (in lower case), and changes that a page of
 * another site asks for. So a site that points its own name at this machine cannot read or change anything.
 */
export function ownRequestsOnly(names: ReadonlySet<string>): RequestHandler {
  return (request, _response, next) => {
    const name = nameIn(request.headers.host);
    if (name === undefined || !(isLoopback(name) || names.has(name))) return next(foreignName(name ?? ''));
    if (!SAFE.has(request.method) && isFromElsewhere(request)) return next(foreignSite());
    next();
  };
}

/** The host name in a Host header, without the port. */
function nameIn(host: string | undefined): string | undefined {
  try {
    return host === undefined ? undefined : new URL(`http://${host}`).hostname;
  } catch {
    return undefined;
  }
}

/** True where a browser says that a page of another site sent a request (Fetch Standard; W3C Fetch Metadata). Other clients send neither header. */
function isFromElsewhere({ headers }: Request): boolean {
  const site = headers['sec-fetch-site'];
  if (site !== undefined && site !== 'same-origin' && site !== 'none') return true;
  const { origin, host } = headers;
  return origin !== undefined && !(URL.canParse(origin) && new URL(origin).host === host?.toLowerCase());
}

function foreignName(name: string): Refused {
  const sentence = `This server does not answer to the name ${name || 'it was called by'}; open it at its own address, or add the name to FOLVEX_NAMES.`;
  return new Refused(421, 'request.name', sentence);
}

function foreignSite(): Refused {
  return new Refused(403, 'request.origin', 'Another site asked for this change, so it was refused.');
}
