import { largestMail, ProblemError, serverUse, type Mail } from '@folvex/core';
import type { DestinationContext, MailPort } from '../port';

/** A mailbox, by a mail server that was set up under a name. Rejects with a `ProblemError` where it is not set up. */
export async function openDestination(destination: Mail, { transferServers }: DestinationContext): Promise<MailPort> {
  const login = transferServers?.get(destination.server);
  if (!login || serverUse(login.address) !== 'mail') {
    const sentence =
      'The mail server of this package is not set up; choose one in the package, or set it up in Settings.';
    throw new ProblemError({ code: 'transfer.absent', sentence, place: {} });
  }
  const { mailbox } = await import('../mail');
  const { from, to, subject, text = '', files } = destination;
  const limits = { maxBytes: largestMail(destination), isOnPage: files === 'page' };
  return mailbox(login, { from: from.trim(), to, subject, text, ...limits });
}
