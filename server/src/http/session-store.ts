import connectPgSimple from 'connect-pg-simple';
import session from 'express-session';
import type { Request, RequestHandler } from 'express';
import type { Connection } from '../data/database';
import type { Office } from '../work/services';

declare module 'express-session' {
  interface SessionData {
    /** Id of who is signed in. */
    account: string;
    /** Ids of deliveries whose pages were opened with their passwords. */
    openedPages: string[];
    /** What an OpenID provider was asked for, until it answers. */
    openId: { state: string; nonce: string; verifier: string };
  }
}

/** A session that nobody used for this long ends. */
const SESSION_MS = 7 * 24 * 3600_000;

/** Sessions of browsers, in the database, so that every server knows them. */
export function sessionsIn({ pool }: Connection, { sessionKey }: Office): RequestHandler {
  const Store = connectPgSimple(session);
  return session({
    // Ended sessions are swept when the store next writes, not by a timer that keeps the process alive.
    store: new Store({ pool, tableName: 'sessions', pruneSessionInterval: false }),
    name: 'folvex.session',
    secret: sessionKey,
    resave: false,
    saveUninitialized: false,
    rolling: true,
    // `auto`: only over TLS where the browser came by TLS, as the proxy says.
    cookie: { httpOnly: true, sameSite: 'lax', secure: 'auto', maxAge: SESSION_MS },
  });
}

/** Signs somebody in under a new session id, so that nobody uses one that they knew before (OWASP, session fixation). */
export function signIn(request: Request, account: string): Promise<void> {
  return new Promise((resolve, reject) => {
    request.session.regenerate((error: unknown) => {
      if (error) return reject(error as Error);
      request.session.account = account;
      request.session.save((failed: unknown) => (failed ? reject(failed as Error) : resolve()));
    });
  });
}

export function signOut(request: Request): Promise<void> {
  return new Promise((resolve, reject) => {
    request.session.destroy((error: unknown) => (error ? reject(error as Error) : resolve()));
  });
}
