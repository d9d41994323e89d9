import type { Router } from 'express';
import {
  accountChangeSchema,
  invitationSchema,
  memberChangeSchema,
  plainAddress,
  ROUTES,
  type AccountRow,
  type Invited,
  type Role,
} from '@folvex/contract';
import {
  endSessions,
  everyAccount,
  insertInvitation,
  membersOf,
  openAccount,
  setRole,
  updateAccount,
} from '../data/accounts';
import { databaseTime } from '../data/clock';
import { notFound, Refused } from '../errors';
import { newSecret } from '../work/access/secrets';
import type { Services } from '../work/services';
import { bodyOf, handler, parameter } from './answers';
import { guardedRouter, setSubject } from './guarded-router';
import { accountIdOf, refuseAlone } from './sessions';

const INVITATION_MS = 14 * 24 * 3600_000;

/** Who works on a project, in which role; accounts of the installation. */
export function memberRoutes(services: Services): Router {
  const { db, office } = services;
  const router = guardedRouter(services);
  router.get(
    ROUTES.members,
    handler(async (request, response) => void response.json(await membersOf(db, parameter(request, 'project')))),
  );
  router.post(
    ROUTES.members,
    handler(async (request, response) => {
      refuseAlone(services);
      const project = parameter(request, 'project');
      const { email: typed, role } = bodyOf(request, invitationSchema);
      const email = plainAddress(typed);
      setSubject(request, `${email} as ${role}`);
      const account = await openAccount(db, { email });
      if (account) {
        await setRole(db, project, account.id, role);
        await endSessions(db, account.id, request.sessionID);
        return void response.json({ outcome: 'added', members: await membersOf(db, project) } satisfies Invited);
      }
      const { secret, hash } = newSecret();
      const expiresAt = new Date((await databaseTime(db)) + INVITATION_MS);
      await insertInvitation(db, { hash, email, isOwner: false, projectId: project, role, expiresAt });
      const link = joinLink(office!.url, secret);
      response.json({ outcome: 'link', link, expiresAt: expiresAt.toISOString() } satisfies Invited);
    }),
  );
  router.put(
    ROUTES.member,
    handler(async (request, response) => {
      const [project, id] = [parameter(request, 'project'), parameter(request, 'account')];
      const role = bodyOf(request, memberChangeSchema).role as Role | null;
      const account = await openAccount(db, { id });
      if (!account) throw notFound('The account');
      setSubject(request, role === null ? `${account.name}: none` : `${account.name}: ${role}`);
      await setRole(db, project, id, role);
      // What a browser holds of the old role must not outlast it; whoever changes their own goes on.
      await endSessions(db, id, request.sessionID);
      response.json(await membersOf(db, project));
    }),
  );
  router.get(
    ROUTES.accounts,
    handler(async (_request, response) => void response.json((await everyAccount(db)) satisfies AccountRow[])),
  );
  router.patch(
    ROUTES.account,
    handler(async (request, response) => {
      const { isOwner, closed } = bodyOf(request, accountChangeSchema);
      const id = parameter(request, 'account');
      if (id === accountIdOf(request))
        throw new Refused(
          409,
          'access.own',
          'You cannot close your own account or stop being an owner yourself; another owner can.',
        );
      const account = await updateAccount(db, id, {
        ...(isOwner !== undefined && { isOwner }),
        ...(closed !== undefined && { closedAt: closed ? new Date(await databaseTime(db)) : null }),
      });
      if (!account) throw notFound('The account');
      setSubject(request, account.name);
      await endSessions(db, id);
      response.json(await everyAccount(db));
    }),
  );
  return router.router;
}

/** The link that an invitation is accepted by. */
export function joinLink(url: string, secret: string): string {
  return `${url}/join/${secret}`;
}
