import { Writable } from 'node:stream';
import { DrizzleQueryError } from 'drizzle-orm';
import pino from 'pino';
import request from 'supertest';
import { ROUTES, type Readiness } from '@folvex/contract';
import { folderProblem } from '../../src/files/folder-problem';
import { createApp } from '../../src/http/app';
import { createLog } from '../../src/work/log';
import { until, useServer } from '../support/harness';

const server = useServer();

const ready = async (app = server.app): Promise<{ status: number; body: Readiness }> =>
  request(app).get(ROUTES.ready) as unknown as Promise<{ status: number; body: Readiness }>;

describe('the health of a server', () => {
  it('is that of what it needs: without a worker it is not ready, with one it is', async () => {
    expect((await request(server.app).get(ROUTES.live)).body).toEqual({ ok: true });
    const { status, body } = await ready();
    expect([status, body.ok]).toEqual([503, false]);
    expect(body.checks.map(({ name, ok }) => [name, ok])).toEqual([
      ['database', true],
      ['store', true],
      ['disk', expect.any(Boolean)],
      ['worker', false],
    ]);
    expect(body.checks[3]!.sentence).toContain('wait until one is started');
    server.work();
    const { checks } = await until(
      async () => (await ready()).body,
      (now) => now.checks[3]!.ok,
    );
    expect(checks[3]).toEqual({ name: 'worker', ok: true });
  });

  it('names the part that fails', async () => {
    const broken = { ...server.services.store, problem: async () => folderProblem('/proc/none') };
    const { status, body } = await ready(createApp({ ...server.services, store: broken }));
    expect(status).toBe(503);
    expect(body.checks.find(({ name }) => name === 'store')).toMatchObject({
      ok: false,
      sentence: expect.stringContaining('cannot write to /proc/none'),
    });
  });

  it('has figures in the format of Prometheus', async () => {
    await request(server.app).get(ROUTES.projects);
    await request(server.app).get('/api/none');
    const { headers, text } = await request(server.app).get(ROUTES.metrics);
    expect(headers['content-type']).toContain('text/plain; version=0.0.4');
    // Prometheus, exposition formats: a sample is a name, labels in braces and a number; the rest are comments.
    const samples = text.split('\n').filter((line) => line !== '' && !line.startsWith('#'));
    for (const line of samples)
      expect(line).toMatch(/^[a-z_][a-z0-9_]*(\{[^}]*\})? -?[0-9.e+-]+$|^\S+ (NaN|[+-]Inf)$/i);
    expect(text).toMatch(/^folvex_request_seconds_count\{method="GET",route="\/api\/projects",status="200"\} [1-9]/m);
    expect(text).toMatch(/^folvex_request_seconds_count\{method="GET",route="other",status="404"\} 1$/m);
    expect(text).toMatch(/^folvex_store_free_bytes [1-9]/m);
    expect(text).toMatch(/^folvex_waiting_sheets 0$/m);
  });
});

describe('the log of a server', () => {
  const lines: Record<string, unknown>[] = [];
  const stream = new Writable({
    write: (chunk: Buffer, _encoding, done) => {
      lines.push(JSON.parse(chunk.toString()) as Record<string, unknown>);
      done();
    },
  });
  /** A server whose database fails with an error. */
  const failing = (error = new Error('the index is torn')) => {
    const log = createLog('info', stream);
    const db = new Proxy(
      {},
      {
        get: () => {
          throw error;
        },
      },
    ) as typeof server.services.db;
    return createApp({ ...server.services, db, log });
  };

  it('has the cause of an error, under the id that the answer names', async () => {
    const { status, headers, body } = await request(failing()).get(ROUTES.projects);
    const id = headers['x-request-id'];
    expect([status, body.problem.sentence]).toEqual([500, expect.stringContaining(`under ${id}.`)]);
    const logged = lines.filter((line) => (line['req'] as { id?: string } | undefined)?.id === id);
    expect(JSON.stringify(logged)).toContain('the index is torn');
    expect(logged.at(-1)).toMatchObject({ req: { method: 'GET', url: ROUTES.projects }, res: { statusCode: 500 } });
  });

  it('has no secret of an invitation', async () => {
    for (const address of ['/join/a-secret', '/api/invitations/a-secret']) await request(failing()).get(address);
    expect(JSON.stringify(lines)).not.toContain('a-secret');
    expect(lines.map((line) => (line['req'] as { url?: string } | undefined)?.url)).toContain('/api/invitations/…');
  });

  it('has a server that is not ready as an answer, not as an error', async () => {
    const { status } = await request(failing()).get(ROUTES.ready);
    const asked = lines.filter((line) => (line['req'] as { url?: string } | undefined)?.url === ROUTES.ready);
    expect([status, asked.at(-1)?.['level']]).toEqual([503, pino.levels.values['info']]);
  });

  it('takes over the id of a proxy, and nothing else for one', async () => {
    const given = await request(failing()).get(ROUTES.live).set('X-Request-Id', 'proxy-12345678');
    expect(given.headers['x-request-id']).toBe('proxy-12345678');
    const odd = await request(failing()).get(ROUTES.live).set('X-Request-Id', '"><script>');
    expect(odd.headers['x-request-id']).toMatch(/^[0-9a-f-]{36}$/);
  });

  it('has a statement that failed and its cause, not the values that it was given', async () => {
    lines.length = 0;
    const cause = Object.assign(new Error('the index is torn'), { detail: 'Key (name)=(value-secret)' });
    const failed = new DrizzleQueryError('select $1', ['value-secret'], cause);
    await request(failing(failed)).get(ROUTES.projects).expect(500);
    const logged = JSON.stringify(lines);
    expect([logged.includes('select $1'), logged.includes('the index is torn')]).toEqual([true, true]);
    expect(logged).toContain('health.spec.ts');
    expect(logged).not.toContain('value-secret');
  });

  it('holds neither headers nor contents nor queries', async () => {
    lines.length = 0;
    await request(failing())
      .post(`${ROUTES.projects}?token=query-secret`)
      .set('Authorization', 'Bearer header-secret')
      .set('Cookie', 'session=cookie-secret')
      .send({ name: 'body-secret', password: 'body-secret' });
    expect(lines.length).toBeGreaterThan(0);
    expect(JSON.stringify(lines)).not.toContain('secret');
  });
});
