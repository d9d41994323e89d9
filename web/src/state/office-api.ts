import { HttpClient } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import { switchMap, type Observable } from 'rxjs';
import {
  isOfficeServer,
  path,
  ROUTES,
  type AccountChange,
  type AccountRow,
  type AuditRow,
  type InvitationInfo,
  type Invited,
  type InvitationAcceptance,
  type Member,
  type NewToken,
  type PasswordChange,
  type RecipientPageContent,
  type RecipientPageKey,
  type Role,
  type RunInfo,
  type SessionInfo,
  type SignIn,
  type TokenInfo,
  type TokenRequest,
  type TransferServer,
  type TransferServerChange,
  type TransferStep,
  type Webhook,
  type WebhookChange,
  type WebhooksChanged,
} from '@folvex/contract';

/**
 * The part of the server's interface that is about people, what they may do, transfer servers, webhooks, and recipients'
 * pages; a method a route.
 */
@Injectable({ providedIn: 'root' })
export class OfficeApi {
  private readonly http = inject(HttpClient);

  /** Who is signed in. */
  session(): Observable<SessionInfo> {
    return this.http.get<SessionInfo>(ROUTES.session);
  }

  signIn(who: SignIn): Observable<SessionInfo> {
    return this.http.post<SessionInfo>(ROUTES.session, who);
  }

  signOut(): Observable<void> {
    return this.http.delete<void>(ROUTES.session);
  }

  changePassword(change: PasswordChange): Observable<void> {
    return this.http.post<void>(ROUTES.password, change);
  }

  /** What an invitation is to. */
  invitation(invitation: string): Observable<InvitationInfo> {
    return this.http.get<InvitationInfo>(path(ROUTES.invitation, { invitation }));
  }

  /** Accepts an invitation. */
  join(invitation: string, person: InvitationAcceptance): Observable<SessionInfo> {
    return this.http.post<SessionInfo>(path(ROUTES.invitation, { invitation }), person);
  }

  members(project: string): Observable<Member[]> {
    return this.http.get<Member[]>(path(ROUTES.members, { project }));
  }

  invite(project: string, email: string, role: Role): Observable<Invited> {
    return this.http.post<Invited>(path(ROUTES.members, { project }), { email, role });
  }

  /** `role`: null ends the membership. */
  changeRole(project: string, account: string, role: Role | null): Observable<Member[]> {
    return this.http.put<Member[]>(path(ROUTES.member, { project, account }), { role });
  }

  accounts(): Observable<AccountRow[]> {
    return this.http.get<AccountRow[]>(ROUTES.accounts);
  }

  changeAccount(account: string, change: AccountChange): Observable<AccountRow[]> {
    return this.http.patch<AccountRow[]>(path(ROUTES.account, { account }), change);
  }

  tokens(): Observable<TokenInfo[]> {
    return this.http.get<TokenInfo[]>(ROUTES.tokens);
  }

  createToken(token: TokenRequest): Observable<NewToken> {
    return this.http.post<NewToken>(ROUTES.tokens, token);
  }

  revokeToken(token: string): Observable<void> {
    return this.http.delete<void>(path(ROUTES.token, { token }));
  }

  transferServers(project: string): Observable<TransferServer[]> {
    return this.http.get<TransferServer[]>(path(ROUTES.transferServers, { project }));
  }

  /** Sets one up under an id, or changes it; resolves with all that the project has. */
  saveTransferServer(project: string, server: string, set: TransferServerChange): Observable<TransferServer[]> {
    if (isOfficeServer({ id: server })) {
      const saved = this.http.put<void>(path(ROUTES.officeServer, { server }), set);
      return saved.pipe(switchMap(() => this.transferServers(project)));
    }
    return this.http.put<TransferServer[]>(path(ROUTES.transferServer, { project, server }), set);
  }

  removeTransferServer(project: string, server: string): Observable<TransferServer[]> {
    if (isOfficeServer({ id: server })) {
      const removed = this.http.delete<void>(path(ROUTES.officeServer, { server }));
      return removed.pipe(switchMap(() => this.transferServers(project)));
    }
    return this.http.delete<TransferServer[]>(path(ROUTES.transferServer, { project, server }));
  }

  testTransferServer(project: string, server: string): Observable<TransferStep[]> {
    return this.http.post<TransferStep[]>(path(ROUTES.transferServerTest, { project, server }), {});
  }

  webhooks(project: string): Observable<Webhook[]> {
    return this.http.get<Webhook[]>(path(ROUTES.webhooks, { project }));
  }

  /** Sets one up under an id, or changes it. */
  saveWebhook(project: string, webhook: string, set: WebhookChange): Observable<WebhooksChanged> {
    return this.http.put<WebhooksChanged>(path(ROUTES.webhook, { project, webhook }), set);
  }

  removeWebhook(project: string, webhook: string): Observable<WebhooksChanged> {
    return this.http.delete<WebhooksChanged>(path(ROUTES.webhook, { project, webhook }));
  }

  renewWebhookSecret(project: string, webhook: string): Observable<WebhooksChanged> {
    return this.http.post<WebhooksChanged>(path(ROUTES.webhookSecret, { project, webhook }), {});
  }

  testWebhook(project: string, webhook: string): Observable<WebhooksChanged> {
    return this.http.post<WebhooksChanged>(path(ROUTES.webhookTest, { project, webhook }), {});
  }

  repeatWebhookCall(project: string, webhook: string, call: string): Observable<WebhooksChanged> {
    return this.http.post<WebhooksChanged>(path(ROUTES.webhookCallAgain, { project, webhook, call }), {});
  }

  /** Opens the page that a recipient downloads files from, by the last part of its link. */
  openRecipientPage(link: string, password?: string): Observable<RecipientPageContent> {
    return this.http.post<RecipientPageContent>(path(ROUTES.recipientPage, { link }), password ? { password } : {});
  }

  /** What lets a recipient into the page of a delivery. */
  recipientPageKey(run: string, delivery: string): Observable<RecipientPageKey> {
    return this.http.get<RecipientPageKey>(path(ROUTES.recipientPageKey, { run, delivery }));
  }

  closeRecipientPage(run: string, delivery: string): Observable<RunInfo> {
    return this.http.delete<RunInfo>(path(ROUTES.recipientPageKey, { run, delivery }));
  }

  /** The latest rows of the audit, or those before one. */
  audit(before?: number): Observable<AuditRow[]> {
    return this.http.get<AuditRow[]>(ROUTES.audit, { params: before === undefined ? {} : { before } });
  }
}
