import type { Router, Request } from 'express';
import { newIssueSchema, ROUTES, type NewIssue } from '@folvex/contract';
import type { RegisterFilter } from '@folvex/core';
import { issueById, issuesOf } from '../data/issues';
import { projectFacts } from '../data/projects';
import { issueRun } from '../work/issues/issue-run';
import { issuedStates } from '../work/issues/issued-states';
import { registerHeading, registerWorkbook } from '../work/issues/register-workbook';
import { transmittalPdf } from '../work/issues/transmittal';
import { notFound } from '../errors';
import { bodyOf, handler, parameter } from './answers';
import { guardedRouter, setSubject } from './guarded-router';
import type { Services } from '../work/services';

const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

/** Issues are made and read; there is no way to change one. */
export function issueRoutes(services: Services): Router {
  const { db } = services;
  const router = guardedRouter(services);
  router.get(
    ROUTES.issues,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      if (!(await projectFacts(db, projectId))) throw notFound('The project');
      response.json(await issuesOf(db, projectId));
    }),
  );
  router.get(
    ROUTES.issuedSheets,
    handler(async (request, response) => {
      response.json(await issuedStates(db, parameter(request, 'project')));
    }),
  );
  router.post(
    ROUTES.issues,
    handler(async (request, response) => {
      const wanted = bodyOf(request, newIssueSchema) as NewIssue;
      const issue = await issueRun(services, parameter(request, 'project'), wanted);
      setSubject(request, `Issue ${issue.number}`);
      response.status(201).json(issue);
    }),
  );
  router.get(
    ROUTES.register,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      const project = await projectFacts(db, projectId);
      if (!project) throw notFound('The project');
      const book = await registerWorkbook(
        registerHeading(project.facts),
        await issuesOf(db, projectId),
        filterOf(request),
      );
      response.setHeader('Content-Disposition', 'attachment; filename="Issue register.xlsx"');
      response.type(XLSX).send(Buffer.from(book));
    }),
  );
  router.get(
    ROUTES.transmittal,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      const [project, issue] = await Promise.all([
        projectFacts(db, projectId),
        issueById(db, projectId, parameter(request, 'issue')),
      ]);
      if (!project || !issue) throw notFound('The issue');
      const pdf = await transmittalPdf(services, project.facts, issue);
      response.setHeader('Content-Disposition', `inline; filename="Transmittal ${issue.number}.pdf"`);
      response.type('application/pdf').send(Buffer.from(pdf));
    }),
  );
  return router.router;
}

/** The filters of the register in the query; unknown ones are ignored. */
function filterOf({ query }: Request): RegisterFilter {
  const said = (key: string): string | undefined => {
    const value = query[key];
    return typeof value === 'string' && value !== '' ? value : undefined;
  };
  const [text, purpose, recipient] = ['text', 'purpose', 'recipient'].map(said);
  return {
    ...(text !== undefined && { text }),
    ...(purpose !== undefined && { purpose }),
    ...(recipient !== undefined && { recipient }),
    ...(said('current') && { current: true }),
    ...(said('changed') && { changed: true }),
  };
}
