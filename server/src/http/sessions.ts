import type { Request, Router } from 'express';
import {
  joinSchema,
  plainAddress,
  passwordChangeSchema,
  ROUTES,
  signInSchema,
  type InvitationInfo,
  type SessionInfo,
} from '@folvex/contract';
import {
  acceptInvitations,
  endSessions,
  hasAccount,
  openAccount,
  openInvitation,
  updateAccount,
} from '../data/accounts';
import { recordAudit } from '../data/audit';
import { notFound, Refused } from '../errors';
import { authorOf } from '../work/access/caller';
import { hashPassword, isPassword, secretHash } from '../work/access/secrets';
import type { Services } from '../work/services';
import { bodyOf, handler, parameter } from './answers';
import { callerOf, findCaller, guardedRouter } from './guarded-router';
import { PasswordTries } from './password-tries';
import { signIn, signOut } from './session-store';

/** Who is signed in; signing in with a password, joining by an invitation, signing out. */
export function sessionRoutes(services: Services): Router {
  const { connection, db, office } = services;
  const router = guardedRouter(services);
  const tries = new PasswordTries(connection);
  const info = async (request: Request): Promise<SessionInfo> => {
    const caller = await findCaller(services, request);
    const { account = null, roles = {} } = caller ?? {};
    return { office: office !== undefined, account, roles, openId: office?.openId?.name ?? null };
  };
  router.get(
    ROUTES.session,
    handler(async (request, response) => void response.json(await info(request))),
  );
  router.post(
    ROUTES.session,
    handler(async (request, response) => {
      refuseAlone(services);
      const { email: typed, password } = bodyOf(request, signInSchema);
      const email = plainAddress(typed);
      const network = request.ip ?? '';
      await tries.begin(email, network);
      const account = await openAccount(db, { email });
      if (!(await isPassword(password, account?.passwordHash)) || !account) {
        await recordAudit(db, { by: null, event: 'account.refused', subject: email });
        throw new Refused(401, 'access.password', 'The email address or the password is wrong.');
      }
      await tries.succeed(email, network);
      await signIn(request, account.id);
      await recordAudit(db, { by: account, event: 'account.signed-in' });
      response.json(await info(request));
    }),
  );
  router.delete(
    ROUTES.session,
    handler(async (request, response) => {
      refuseAlone(services);
      const caller = await findCaller(services, request);
      if (caller) await recordAudit(db, { by: authorOf(caller), event: 'account.signed-out' });
      await signOut(request);
      response.status(204).end();
    }),
  );
  router.post(
    ROUTES.password,
    handler(async (request, response) => {
      const { was, password } = bodyOf(request, passwordChangeSchema);
      const account = await openAccount(db, { id: accountIdOf(request) });
      if (!account) throw notFound('The account');
      await tries.begin(account.email, request.ip ?? '');
      if (!(await isPassword(was, account.passwordHash)))
        throw new Refused(422, 'access.password', 'The current password is wrong.');
      await tries.succeed(account.email, request.ip ?? '');
      await updateAccount(db, account.id, { passwordHash: await hashPassword(password) });
      await endSessions(db, account.id, request.sessionID);
      response.status(204).end();
    }),
  );
  router.get(
    ROUTES.invitation,
    handler(async (request, response) => {
      const { email, isOwner, projectName, role } = await invitationOf(services, request);
      const project = projectName !== null && role ? { name: projectName, role } : null;
      response.json({ email, isOwner, project } satisfies InvitationInfo);
    }),
  );
  router.post(
    ROUTES.invitation,
    handler(async (request, response) => {
      const invitation = await invitationOf(services, request);
      const { name, password, email: stated } = bodyOf(request, joinSchema);
      const email = invitation.email ?? (stated && plainAddress(stated));
      if (!email)
        throw new Refused(400, 'request.value', 'Enter the email address to sign in with.', { path: 'email' });
      if (await hasAccount(db, email))
        throw new Refused(
          409,
          'access.account',
          'There is already an account with this email address; sign in with it.',
        );
      const passwordHash = await hashPassword(password);
      const account = await acceptInvitations(db, [invitation], { email, name: name.trim(), passwordHash });
      if (!account) throw notFound('The invitation');
      await signIn(request, account.id);
      const subject = account.isOwner ? 'as owner' : `as ${invitation.role}`;
      const projectId = invitation.projectId ?? undefined;
      await recordAudit(db, { by: account, event: 'account.joined', projectId, subject });
      if (account.isOwner) office?.onOwner();
      response.status(201).json(await info(request));
    }),
  );
  return router.router;
}

/** Where nobody signs in there are neither sessions nor invitations. */
export function refuseAlone({ office }: Pick<Services, 'office'>): void {
  if (!office) throw alone();
}

/** The account of whoever asks; refuses where nobody signs in. */
export function accountIdOf(request: Request): string {
  const { account } = callerOf(request);
  if (!account) throw alone();
  return account.id;
}

function alone(): Refused {
  return new Refused(409, 'access.alone', 'Nobody signs in here: this Folvex serves this machine only.');
}

async function invitationOf({ db }: Services, request: Request) {
  const invitation = await openInvitation(db, secretHash(parameter(request, 'invitation')));
  if (invitation) return invitation;
  const sentence = 'This invitation has been used or has expired; ask for a new one.';
  throw new Refused(404, 'access.invitation', sentence);
}
