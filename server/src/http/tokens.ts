import { randomUUID } from 'node:crypto';
import type { Router } from 'express';
import { newTokenSchema, ROUTES, type NewToken } from '@folvex/contract';
import { databaseTime } from '../data/clock';
import { insertToken, removeToken, tokenInfo, tokensOf } from '../data/tokens';
import { notFound } from '../errors';
import { newTokenSecret } from '../work/access/secrets';
import type { Services } from '../work/services';
import { bodyOf, handler, parameter } from './answers';
import { guardedRouter, setSubject } from './guarded-router';
import { accountIdOf } from './sessions';

const MS_PER_DAY = 24 * 3600_000;

/** Tokens by which scripts work for whoever is signed in. */
export function tokenRoutes(services: Services): Router {
  const { db } = services;
  const router = guardedRouter(services);
  router.get(
    ROUTES.tokens,
    handler(async (request, response) => void response.json(await tokensOf(db, accountIdOf(request)))),
  );
  router.post(
    ROUTES.tokens,
    handler(async (request, response) => {
      const accountId = accountIdOf(request);
      const { name, scope, days } = bodyOf(request, newTokenSchema);
      setSubject(request, name);
      const { secret, hash } = newTokenSecret();
      const expiresAt = new Date((await databaseTime(db)) + days * MS_PER_DAY);
      const row = await insertToken(db, { id: randomUUID(), hash, accountId, name, scope, expiresAt });
      response.status(201).json({ ...tokenInfo(row), token: secret } satisfies NewToken);
    }),
  );
  router.delete(
    ROUTES.token,
    handler(async (request, response) => {
      const removed = await removeToken(db, accountIdOf(request), parameter(request, 'token'));
      if (!removed) throw notFound('The token');
      setSubject(request, removed.name);
      response.status(204).end();
    }),
  );
  return router.router;
}
