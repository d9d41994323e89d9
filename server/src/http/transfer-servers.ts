import type { Router } from 'express';
import { ROUTES, transferServerSchema, type TransferServer, type TransferStep } from '@folvex/contract';
import { ProblemError } from '@folvex/core';
import { probeTransfer } from '@folvex/press';
import { printedPaper } from '../data/deliveries';
import {
  loginOf,
  removeTransferServer,
  saveTransferServer,
  secretAbout,
  transferServerById,
  transferServerInfo,
  transferServersOf,
} from '../data/transfer-servers';
import { notFound } from '../errors';
import type { Services } from '../work/services';
import { bodyOf, handler, parameter } from './answers';
import { guardedRouter, setSubject } from './guarded-router';

/** Transfer servers that packages of a project are delivered to. Their passwords come in and never go out. */
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
  router.put(
    ROUTES.transferServer,
    handler(async (request, response) => {
      const [projectId, id] = [parameter(request, 'project'), parameter(request, 'server')];
      const { secret, ...set } = bodyOf(request, transferServerSchema);
      if (!URL.canParse(set.address)) {
        const sentence = `${set.address} is no address that can be reached.`;
        throw new ProblemError({ code: 'transfer.address', sentence, place: {} });
      }
      setSubject(request, set.name);
      const before = await transferServerById(db, projectId, id);
      const row = { projectId, id, ...set, sealed: null };
      // A password is for the host that it was given for: it does not go to another one.
      const isSameHost = before !== undefined && secretAbout(before) === secretAbout(row);
      const about = secretAbout(row);
      const sealed = secret === undefined ? (isSameHost ? before.sealed : null) : secret && sealer.seal(secret, about);
      await saveTransferServer(db, { ...row, sealed: sealed || null });
      response.json(await listed(projectId));
    }),
  );
  router.delete(
    ROUTES.transferServer,
    handler(async (request, response) => {
      const [projectId, id] = [parameter(request, 'project'), parameter(request, 'server')];
      const before = await transferServerById(db, projectId, id);
      if (!before || !(await removeTransferServer(db, projectId, id))) throw notFound('The transfer server');
      setSubject(request, before.name);
      response.json(await listed(projectId));
    }),
  );
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
