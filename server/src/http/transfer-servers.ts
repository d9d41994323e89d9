import type { Request, Router } from 'express';
import { isOfficeServer, ROUTES, transferServerSchema, type TransferServer, type TransferStep } from '@folvex/contract';
import { ProblemError } from '@folvex/core';
import { probeTransfer } from '@folvex/press';
import { printedPaper } from '../data/deliveries';
import {
  loginOf,
  officeServerById,
  removeTransferServer,
  saveTransferServer,
  secretAbout,
  transferServerById,
  transferServerInfo,
  transferServersOf,
  type TransferServerRow,
} from '../data/transfer-servers';
import { notFound } from '../errors';
import type { Services } from '../work/services';
import { bodyOf, handler, parameter } from './answers';
import { guardedRouter, setSubject } from './guarded-router';

/** Transfer servers that packages are delivered to, of a project or of the office. Their passwords come in and never go out. */
export function transferServerRoutes(services: Services): Router {
  const { db, sealer } = services;
  const router = guardedRouter(services);
  const listed = async (project: string): Promise<TransferServer[]> => {
    const [rows, printed] = [await transferServersOf(db, project), await printedPaper(db, project)];
    return rows.map((row) => ({
      ...transferServerInfo(row),
      ...(printed.has(row.id) && { printed: printed.get(row.id)! }),
    }));
  };
  router.get(
    ROUTES.transferServers,
    handler(async (request, response) => void response.json(await listed(parameter(request, 'project')))),
  );
  /** Adds or changes one of a project, or of the office. */
  const save = async (request: Request, projectId: string | null): Promise<void> => {
    const id = parameter(request, 'server');
    if (isOfficeServer({ id }) !== (projectId === null)) throw notFound('The transfer server');
    const { secret, ...set } = bodyOf(request, transferServerSchema);
    if (!URL.canParse(set.address)) {
      const sentence = `${set.address} is no address that can be reached.`;
      throw new ProblemError({ code: 'transfer.address', sentence, place: {} });
    }
    setSubject(request, set.name);
    const before = await found(projectId, id);
    const row = { projectId, id, ...set, sealed: null };
    // A password is for the host that it was given for: it does not go to another one.
    const isSameHost = before !== undefined && secretAbout(before) === secretAbout(row);
    const about = secretAbout(row);
    const sealed = secret === undefined ? (isSameHost ? before.sealed : null) : secret && sealer.seal(secret, about);
    await saveTransferServer(db, { ...row, sealed: sealed || null });
  };
  const remove = async (request: Request, projectId: string | null): Promise<void> => {
    const before = await found(projectId, parameter(request, 'server'));
    if (!before) throw notFound('The transfer server');
    await removeTransferServer(db, before);
    setSubject(request, before.name);
  };
  const found = async (projectId: string | null, id: string): Promise<TransferServerRow | undefined> => {
    if (projectId === null) return officeServerById(db, id);
    return isOfficeServer({ id }) ? undefined : transferServerById(db, projectId, id);
  };
  for (const [method, act] of [
    ['put', save],
    ['delete', remove],
  ] as const) {
    router[method](
      ROUTES.transferServer,
      handler(async (request, response) => {
        const project = parameter(request, 'project');
        await act(request, project);
        response.json(await listed(project));
      }),
    );
    router[method](
      ROUTES.officeServer,
      handler(async (request, response) => {
        await act(request, null);
        response.status(204).end();
      }),
    );
  }
  router.post(
    ROUTES.transferServerTest,
    handler(async (request, response) => {
      const row = await transferServerById(db, parameter(request, 'project'), parameter(request, 'server'));
      if (!row) throw notFound('The transfer server');
      response.json((await probeTransfer(loginOf(row, sealer.unseal))) satisfies TransferStep[]);
    }),
  );
  return router.router;
}
