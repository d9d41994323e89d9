import type { Router } from 'express';
import { ROUTES } from '@folvex/contract';
import {
  acceptInvitations,
  hasAccount,
  invitationsTo,
  openAccount,
  updateAccount,
  type StoredAccount,
} from '../data/accounts';
import { recordAudit } from '../data/audit';
import { Refused } from '../errors';
import type { OpenIdProvider, OpenIdPerson } from '../work/access/open-id';
import type { Services } from '../work/services';
import { handler } from './answers';
import { guardedRouter } from './guarded-router';
import { signIn } from './session-store';

/** Signing in by an OpenID provider (OpenID Connect Core 1.0, authorization code flow with PKCE). */
export function openIdRoutes(services: Services): Router {
  const { db, office } = services;
  const router = guardedRouter(services);
  router.get(
    ROUTES.openId,
    handler(async (request, response) => {
      const { address, checks } = await providerOf(services).begin(returnAddress(services));
      request.session.openId = checks;
      response.redirect(address);
    }),
  );
  router.get(
    ROUTES.openIdReturn,
    handler(async (request, response) => {
      const provider = providerOf(services);
      const checks = request.session.openId;
      if (!checks) throw refused('The sign-in took too long or was started in another browser; start again.');
      const answer = new URL(request.originalUrl, office!.url);
      const person = await provider.end(answer, checks).catch((err: unknown) => {
        request.log.warn({ err }, 'sign-in by OpenID failed');
        throw refused(`${provider.name} did not confirm the sign-in; start again.`);
      });
      const account = await accountFor(services, person);
      await signIn(request, account.id);
      await recordAudit(db, { by: account, event: 'account.signed-in', subject: provider.name });
      if (account.isOwner) office!.onOwner();
      response.redirect('/');
    }),
  );
  return router.router;
}

function providerOf({ office }: Services): OpenIdProvider {
  if (!office?.openId) throw new Refused(404, 'access.alone', 'Nobody signs in this way here.');
  return office.openId;
}

function returnAddress({ office }: Services): string {
  return `${office!.url}${ROUTES.openIdReturn}`;
}

/**
 * The account of a person whom the provider knows. The first time it is found, or made from invitations, by the person's
 * address; but only where the provider has checked that it is theirs.
 */
async function accountFor({ db }: Services, { openId, email, isVerified, name }: OpenIdPerson): Promise<StoredAccount> {
  const known = await openAccount(db, { openId });
  if (known) return known;
  if (!email || !isVerified) throw refused('The provider did not send a verified email address.');
  const sameAddress = await openAccount(db, { email });
  if (sameAddress) return (await updateAccount(db, sameAddress.id, { openId }))!;
  if (await hasAccount(db, email))
    throw refused(`The account of ${email} is closed; ask an owner of this installation.`);
  const invitations = await invitationsTo(db, email);
  if (invitations.length === 0) throw refused(`${email} has not been invited; ask a lead of your project.`);
  const account = await acceptInvitations(db, invitations, { email, name: name || email, openId });
  if (!account) throw refused('The invitation has been used in the meantime; start again.');
  await recordAudit(db, { by: account, event: 'account.joined' });
  return account;
}

function refused(sentence: string): Refused {
  return new Refused(403, 'access.open-id', sentence);
}
