import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import request from 'supertest';
import {
  isOfficeServer,
  path,
  ROUTES,
  type RunInfo,
  type TransferServer,
  type TransferServerChange,
} from '@folvex/contract';
import { readJobFile } from '@folvex/core';
import {
  startMailbox,
  startPlotter,
  startTransferServers,
  TRANSFER_ACCOUNT,
  TRANSFER_PORTS,
} from '../../../../stand-ins/src/index';
import { addPartners } from '../../../src/work/projects/add-partners';
import { delivered, outcomesOf } from '../../support/delivered';
import { DEMO, SEALER, useServer } from '../../support/harness';

const PARTNERS = fileURLToPath(new URL('../../../../demo/partners.json', import.meta.url));
const ANY = { page: 0, sftp: 0, ftp: 0, ftps: 0, dav: 0, s3: 0 };
const shipped = JSON.parse(readFileSync(PARTNERS, 'utf8')) as {
  servers: { id: string; address: string; user: string; secret: string }[];
  package: object;
};

describe('the partners of the demo', () => {
  const server = useServer();

  it('are the stand-ins, and their package is one of a job file', () => {
    const job = JSON.parse(readFileSync(DEMO, 'utf8')) as { packages: object[] };
    expect(readJobFile(JSON.stringify({ ...job, packages: [...job.packages, shipped.package] })).ok).toBe(true);
    const portOf = (id: string) => Number(new URL(shipped.servers.find((one) => one.id === id)!.address).port);
    for (const kind of ['sftp', 'ftp', 'ftps', 'dav', 's3'] as const)
      expect(portOf(`stand-in-${kind}`)).toBe(TRANSFER_PORTS[kind]);
    expect(shipped.servers[0]).toMatchObject({ user: TRANSFER_ACCOUNT.user, secret: TRANSFER_ACCOUNT.password });
  });

  it('get what is published, each in their way, once what they show is accepted', async () => {
    const transfer = await startTransferServers(join(server.data, 'stand-ins'), ANY);
    const mailbox = await startMailbox();
    const plotter = await startPlotter({ media: [{ kind: 'roll', width: 610, leftMm: 100_000 }] });
    server.work();
    const addresses: Record<string, string> = {
      'office:mail': mailbox.address,
      'office:plotter': plotter.address,
    };
    for (const { server: one } of transfer.shares) {
      const kind = { 'http:': 'dav', 's3+http:': 's3' }[new URL(one.address).protocol];
      addresses[`stand-in-${kind ?? new URL(one.address).protocol.slice(0, -1)}`] = one.address;
    }
    const file = join(server.data, 'partners.json');
    const servers = shipped.servers.map((one) => ({ ...one, address: addresses[one.id]! }));
    writeFileSync(file, JSON.stringify({ ...shipped, servers }));
    await addPartners(server.services.db, SEALER, server.project, file);
    const at = { project: server.project };
    const { body } = await request(server.app).get(path(ROUTES.transferServers, at));
    for (const { id, name, address, user, hasSecret } of body as TransferServer[]) {
      expect(hasSecret).toBe(user !== '');
      const share = transfer.shares.find((one) => one.server.address === address);
      const change: TransferServerChange = { name, address, user, fingerprint: share?.server.fingerprint ?? null };
      const saved = isOfficeServer({ id })
        ? request(server.app).put(path(ROUTES.officeServer, { server: id }))
        : request(server.app).put(path(ROUTES.transferServer, { ...at, server: id }));
      expect((await saved.send(change)).ok).toBe(true);
    }
    const started = await request(server.app)
      .post(path(ROUTES.runs, { ...at, package: 'partners' }))
      .send({})
      .expect(201);
    const run = await delivered(server.app, (started.body as RunInfo).id);
    expect(run.deliveries.map(({ state, problem }) => [state, problem])).toEqual(
      run.deliveries.map(() => ['done', null]),
    );
    expect(run.deliveries.map((delivery) => outcomesOf(delivery).map((one) => 'how' in one && one.how)[0])).toEqual([
      ...['new', 'new', 'new', 'new', 'new', 'new', 'mailed', 'printed'],
    ]);
    for (const { folder } of transfer.shares) expect((await folder.files()).length).toBeGreaterThanOrEqual(2);
    expect(mailbox.mails).toHaveLength(1);
    await Promise.all([transfer.stop(), mailbox.stop(), plotter.stop()]);
  });
});
