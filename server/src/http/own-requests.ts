import type { Request, RequestHandler } from 'express';
import { Refused } from '../errors';

/** Names of this machine for itself. */
const LOOPBACK = /^(localhost|127(\.\d{1,3}){3}|\[::1\])$/;
/** Methods that change nothing (RFC 9110, 9.2.1). */
const SAFE = new Set(['GET', 'HEAD', 'OPTIONS']);

/**
 * Refuses requests to other names than this machine's own and those given, in lower case, and changes that the page of
 * another site asks for. A site that points its own name at this machine thus reads and changes nothing.
 */
export function ownRequestsOnly(names: ReadonlySet<string>): RequestHandler {
  return (request, _response, next) => {
    const name = nameIn(request.headers.host);
    if (name === undefined || !(LOOPBACK.test(name) || names.has(name))) return next(foreignName(name ?? ''));
    if (!SAFE.has(request.method) && isFromElsewhere(request)) return next(foreignSite());
    next();
  };
}

/** The name in a Host header, without the port. */
function nameIn(host: string | undefined): string | undefined {
  try {
    return host === undefined ? undefined : new URL(`http://${host}`).hostname;
  } catch {
    return undefined;
  }
}

/** True where a browser says that the page of another site sent a request (Fetch Standard; W3C Fetch Metadata). Others say nothing. */
function isFromElsewhere({ headers }: Request): boolean {
  const site = headers['sec-fetch-site'];
  if (site !== undefined && site !== 'same-origin' && site !== 'none') return true;
  const { origin, host } = headers;
  return origin !== undefined && !(URL.canParse(origin) && new URL(origin).host === host?.toLowerCase());
}

function foreignName(name: string): Refused {
  const sentence = `This server does not go by the name ${name || 'that was asked for'}; open it at its own address, or add the name to FOLVEX_NAMES.`;
  return new Refused(421, 'request.name', sentence);
}

function foreignSite(): Refused {
  return new Refused(403, 'request.origin', 'This change was asked for by another site and was refused.');
}
