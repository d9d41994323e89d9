import { sql } from 'drizzle-orm';
import request from 'supertest';
import { path, PRESENT_FOR_S, ROUTES, type Person, type Presence, type ProjectSummary } from '@folvex/contract';
import { presence } from '../../src/data/schema';
import { useServer } from '../support/harness';

const server = useServer();
const ada: Presence = { window: 'w1', id: 'ada', name: 'Ada', sheet: null };
const ben: Presence = { window: 'w2', id: 'ben', name: 'Ben', sheet: 's1' };

const tell = (body: object, project = server.project) =>
  request(server.app).post(path(ROUTES.presence, { project })).send(body);
const end = (window: string) =>
  request(server.app)
    .post(path(ROUTES.presenceEnded, { project: server.project }))
    .send({ window });

async function peopleInList(): Promise<Person[]> {
  const { body } = await request(server.app).get(ROUTES.projects);
  return (body as ProjectSummary[]).find(({ id }) => id === server.project)!.people;
}

describe('Who has a project open', () => {
  beforeEach(async () => void (await server.services.db.delete(presence)));

  it('is told to everybody who has it open, and in the list of projects', async () => {
    await tell(ada);
    const { body } = await tell(ben);
    expect(body).toEqual([
      { id: 'ada', name: 'Ada', sheet: null },
      { id: 'ben', name: 'Ben', sheet: 's1' },
    ]);
    expect(await peopleInList()).toEqual(body);
  });

  it('is one person where several windows of one browser have it open', async () => {
    await tell(ada);
    const { body } = await tell({ ...ada, window: 'w3', sheet: 's2' });
    expect(body).toEqual([{ id: 'ada', name: 'Ada', sheet: 's2' }]);
    await end('w3');
    expect(await peopleInList()).toEqual([{ id: 'ada', name: 'Ada', sheet: null }]);
  });

  it('ends when the window is closed, and when nothing was heard of it for a while', async () => {
    await tell(ada);
    await tell(ben);
    await end('w1');
    expect((await peopleInList()).map(({ id }) => id)).toEqual(['ben']);
    const long = sql<Date>`now() - make_interval(secs => ${PRESENT_FOR_S + 1})`;
    await server.services.db.update(presence).set({ seenAt: long });
    expect(await peopleInList()).toEqual([]);
    // The next word of anybody removes what is out of date.
    await tell(ada);
    expect(await server.services.db.$count(presence)).toBe(1);
  });

  it('is refused with a sentence for a project that is not there, and for values that are none', async () => {
    const { status, body } = await tell(ada, 'nowhere');
    expect([status, (body as { problem: { code: string } }).problem.code]).toEqual([404, 'not-found']);
    expect((await tell({ ...ada, name: 'a'.repeat(61) })).status).toBe(400);
    expect((await tell({ ...ada, window: '' })).status).toBe(400);
  });
});
