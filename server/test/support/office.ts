import { randomUUID } from 'node:crypto';
import type { Express } from 'express';
import request from 'supertest';
import { path, ROUTES, type Role } from '@folvex/contract';
import { setRole } from '../../src/data/accounts';
import { insertProject } from '../../src/data/projects';
import { accounts } from '../../src/data/access-schema';
import { createApp } from '../../src/http/app';
import { hashPassword } from '../../src/work/access/secrets';
import type { Office } from '../../src/work/services';
import { described } from './described';
import type { Harness } from './harness';

export const PASSWORD = 'four ferries cross at dawn';

type Agent = ReturnType<typeof request.agent>;

/** An account that was put into the database. */
export interface Colleague {
  id: string;
  email: string;
  name: string;
}

/** The same server for an office: people sign in. */
export function officeApp(server: Harness, office: Partial<Office> = {}): Express {
  const usual = { url: 'http://127.0.0.1', sessionKey: 'a key of the tests', onOwner: () => undefined };
  return described(createApp({ ...server.services, office: { ...usual, ...office } }));
}

/** Makes an account with `PASSWORD`, and a role in a project where one is given. */
export async function colleague(
  { services: { db } }: Harness,
  name: string,
  { isOwner = false, roles = {} }: { isOwner?: boolean; roles?: Record<string, Role> } = {},
): Promise<Colleague> {
  const [id, email] = [randomUUID(), `${name.toLowerCase()}@office.example`];
  await db.insert(accounts).values({ id, email, name, isOwner, passwordHash: await hashPassword(PASSWORD) });
  for (const [project, role] of Object.entries(roles)) await setRole(db, project, id, role);
  return { id, email, name };
}

/** A browser in which somebody is signed in. */
export async function browserOf(app: Express, { email }: Pick<Colleague, 'email'>): Promise<Agent> {
  const agent = request.agent(app);
  const { status, body } = await agent.post(path(ROUTES.session)).send({ email, password: PASSWORD });
  if (status !== 200) throw new Error(JSON.stringify(body));
  return agent;
}

/** Another project, with nothing in it. */
export async function emptyProject({ services: { db } }: Harness, name: string): Promise<string> {
  const id = randomUUID();
  const project = { number: '', name, client: '', fields: {} };
  await insertProject(db, id, { project, drawings: [], groups: [], recipes: [], sheets: [], packages: [] }, []);
  return id;
}
