import { openAsBlob } from 'node:fs';
import { basename } from 'node:path';
import { ROUTES, path, type ProjectSummary, type Received, type Refusal, type RunInfo } from '@folvex/contract';
import type { Problem } from '@folvex/core';

/** Which Folvex a command works with, and in whose name. */
export interface ServerOptions {
  server: string;
  /** Id, number or name. */
  project: string;
}

/** A request that a server refused, or that did not reach it. */
export class ServerProblem extends Error {
  constructor(readonly problem: Problem) {
    super(problem.sentence);
  }
}

/** A project on a server, as whoever the token is of sees it. */
export class RemoteProject {
  private constructor(
    private readonly server: string,
    readonly project: ProjectSummary,
  ) {}

  /** Finds the project. Rejects with a `ServerProblem` where there is none, or no server. */
  static async open({ server, project: wanted }: ServerOptions): Promise<RemoteProject> {
    const address = server.replace(/\/+$/, '');
    const all = await asked<ProjectSummary[]>(address, 'GET', ROUTES.projects);
    const open = all.filter(({ removedAt }) => removedAt === null);
    const by = (key: 'id' | 'number' | 'name') => open.filter((one) => one[key] === wanted);
    const found = [by('id'), by('number'), by('name')].find((some) => some.length > 0) ?? [];
    if (found.length === 1) return new RemoteProject(address, found[0]!);
    const which = open.map(({ number, name }) => `${number} ${name}`.trim()).join(', ') || 'none';
    const sentence =
      found.length > 1
        ? `There are ${found.length} projects ${wanted}; name the one meant by its id.`
        : `There is no project ${wanted} that this token may work in; there are: ${which}.`;
    throw new ServerProblem({ code: 'not-found', sentence, place: {} });
  }

  /** Sends a drawing; one of a name that is there becomes its newer version. */
  async push(file: string): Promise<'added' | 'newer version' | 'there already'> {
    const form = new FormData();
    form.append('file', await openAsBlob(file), basename(file));
    const project = this.project.id;
    const received = await asked<Received>(this.server, 'POST', path(ROUTES.drawings, { project }), form);
    if (received.outcome === 'added') return 'added';
    if (received.outcome === 'known') return 'there already';
    if (received.outcome === 'locked') throw new ServerProblem(received.problem);
    const answer = { offered: received.offered, as: 'version', drawing: received.drawing.id };
    await asked<Received>(this.server, 'POST', path(ROUTES.offers, { project }), answer);
    return 'newer version';
  }

  /** Starts a run of a package, by its id. Rejects with what its checks found where they stop it. */
  start(pack: string): Promise<RunInfo> {
    return asked<RunInfo>(this.server, 'POST', path(ROUTES.runs, { project: this.project.id, package: pack }), {});
  }

  run(run: string): Promise<RunInfo> {
    return asked<RunInfo>(this.server, 'GET', path(ROUTES.run, { run }));
  }

  /** The content of a file of a run. */
  file(run: string, index: number): Promise<Response> {
    return request(this.server, 'GET', path(ROUTES.runFile, { run, index }));
  }
}

async function asked<T>(server: string, method: string, route: string, body?: FormData | object): Promise<T> {
  return (await (await request(server, method, route, body)).json()) as T;
}

async function request(server: string, method: string, route: string, body?: FormData | object): Promise<Response> {
  const { FOLVEX_TOKEN: token } = process.env;
  const isForm = body instanceof FormData;
  const answer = await fetch(`${server}${route}`, {
    method,
    headers: {
      ...(token && { Authorization: `Bearer ${token}` }),
      ...(body && !isForm && { 'Content-Type': 'application/json' }),
    },
    ...(body && { body: isForm ? body : JSON.stringify(body) }),
  }).catch((error: unknown) => {
    const cause = (error as Error).cause instanceof Error ? ((error as Error).cause as Error).message : String(error);
    throw new ServerProblem({ code: 'offline', sentence: `${server} cannot be reached (${cause}).`, place: {} });
  });
  if (answer.ok) return answer;
  throw new ServerProblem(await problemIn(answer, server));
}

async function problemIn(answer: Response, server: string): Promise<Problem> {
  const body = (await answer.json().catch(() => ({}))) as Partial<Refusal> & { findings?: { sentence: string }[] };
  if (answer.status === 401) {
    const sentence = `${server} wants a token: create one under Account, and give it in FOLVEX_TOKEN.`;
    return { code: 'access.sign-in', sentence, place: {} };
  }
  if (body.problem) return body.problem;
  const [first] = body.findings ?? [];
  const sentence = first ? `The checks stop the run: ${first.sentence}` : `${server} answered ${answer.status}.`;
  return { code: 'unknown', sentence, place: {} };
}
