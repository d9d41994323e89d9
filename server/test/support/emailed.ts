import { join } from 'node:path';
import request from 'supertest';
import { path, ROUTES, type PackageChange, type RunInfo } from '@folvex/contract';
import type { Mail } from '@folvex/core';
import { startMailServer, type MailPeer } from '../../../press/test/support/mail-peer';
import { delivered } from './delivered';
import type { Harness } from './harness';

/** The tender, published and sent by email once everybody has got it or not. `replies`: what the server says to addresses. */
export async function emailedRun(
  server: Harness,
  mail: Mail,
  replies: MailPeer['replies'] = new Map(),
): Promise<{ peer: MailPeer; run: RunInfo }> {
  const { app, project, data } = server;
  const peer = await startMailServer(join(data, 'mail'));
  for (const [address, reply] of replies) peer.replies.set(address, reply);
  server.work();
  const { name, address, user, secret, fingerprint } = peer.login;
  await request(app)
    .put(path(ROUTES.transferServer, { project, server: mail.server }))
    .send({ name, address, user, secret, fingerprint })
    .expect(200);
  const change = { destinations: [mail] } satisfies PackageChange;
  await request(app)
    .patch(path(ROUTES.package, { project, package: 'tender' }))
    .send(change)
    .expect(200);
  const { body } = await request(app)
    .post(path(ROUTES.runs, { project, package: 'tender' }))
    .send({})
    .expect(201);
  return { peer, run: await delivered(app, (body as RunInfo).id) };
}
