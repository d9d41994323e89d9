import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import request from 'supertest';
import { path, ROUTES, type RunInfo } from '@folvex/contract';
import { setRole } from '../../src/data/accounts';
import { useServer } from '../support/harness';
import { colleague, officeApp, PASSWORD } from '../support/office';

const server = useServer();

it('the progress of a run is told to its readers only: the stream ends after their role', async () => {
  const { services, project } = server;
  // No worker is there: the run waits for ever.
  const { body } = await request(server.app).post(path(ROUTES.runs, { project, package: 'permit' }));
  const reader = await colleague(server, 'Reader', { roles: { [project]: 'reader' } });
  const listening = officeApp(server).listen(0, '127.0.0.1');
  await once(listening, 'listening');
  try {
    const base = `http://127.0.0.1:${(listening.address() as AddressInfo).port}`;
    const signedIn = await fetch(base + ROUTES.session, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ email: reader.email, password: PASSWORD }),
    });
    const headers = { Cookie: signedIn.headers.getSetCookie()[0]!.split(';')[0]! };
    const events = base + path(ROUTES.runEvents, { run: (body as RunInfo).id });
    const stream = (await fetch(events, { headers })).body!.pipeThrough(new TextDecoderStream()).getReader();
    expect((await stream.read()).value).toContain('"state":"waiting"');
    await setRole(services.db, project, reader.id, null);
    let { done } = await stream.read();
    while (!done) ({ done } = await stream.read());
    expect((await fetch(events, { headers })).status).toBe(404);
  } finally {
    listening.close();
    listening.closeAllConnections();
  }
});
