import { sql } from 'drizzle-orm';
import request from 'supertest';
import { path, PRESENT_FOR_S, ROUTES, type Person, type Presence, type ProjectNews } from '@folvex/contract';
import { presence } from '../../src/data/schema';
import { useServer } from '../support/harness';

const server = useServer();
const ada: Presence = { window: 'w1', id: 'ada', name: 'Ada', sheet: null };
const ben: Presence = { window: 'w2', id: 'ben', name: 'Ben', sheet: 's1' };

const report = (body: object, project = server.project) =>
  request(server.app).post(path(ROUTES.presence, { project })).send(body);
const end = (window: string) =>
  request(server.app)
    .post(path(ROUTES.presenceEnded, { project: server.project }))
    .send({ window });

async function peopleInList(): Promise<Person[]> {
  const { body } = await request(server.app).get(ROUTES.everyPresence);
  return (body as Record<string, Person[]>)[server.project] ?? [];
}

describe('Who has a project open', () => {
  beforeEach(async () => void (await server.services.db.delete(presence)));

  it('is told to everybody who has it open, and in the list of projects', async () => {
    await report(ada);
    const people = [
      { id: 'ada', name: 'Ada', sheet: null },
      { id: 'ben', name: 'Ben', sheet: 's1' },
    ];
    // Nothing has happened in the project yet.
    const news: ProjectNews = { people, latestRuns: [], arrivalsChangedAt: null };
    expect((await report(ben)).body).toEqual(news);
    expect(await peopleInList()).toEqual(people);
  });

  it('is one person where several windows of one browser have it open', async () => {
    await report(ada);
    const { body } = await report({ ...ada, window: 'w3', sheet: 's2' });
    expect((body as ProjectNews).people).toEqual([{ id: 'ada', name: 'Ada', sheet: 's2' }]);
    await end('w3');
    expect(await peopleInList()).toEqual([{ id: 'ada', name: 'Ada', sheet: null }]);
  });

  it('ends when the window is closed, and when nothing was heard of it for a while', async () => {
    await report(ada);
    await report(ben);
    await end('w1');
    expect((await peopleInList()).map(({ id }) => id)).toEqual(['ben']);
    const long = sql<Date>`now() - make_interval(secs => ${PRESENT_FOR_S + 1})`;
    await server.services.db.update(presence).set({ seenAt: long });
    expect(await peopleInList()).toEqual([]);
    // The next report of anybody removes what is out of date.
    await report(ada);
    expect(await server.services.db.$count(presence)).toBe(1);
  });

  it('is refused with a sentence for a project that is not there, and for values that are none', async () => {
    const { status, body } = await report(ada, 'nowhere');
    expect([status, (body as { problem: { code: string } }).problem.code]).toEqual([404, 'not-found']);
    expect((await report({ ...ada, name: 'a'.repeat(61) })).status).toBe(400);
    expect((await report({ ...ada, window: '' })).status).toBe(400);
    const nul = await report({ ...ada, name: 'A\0da' });
    expect([nul.status, nul.body.problem.sentence]).toEqual([
      400,
      'name contains a character that cannot be stored; remove it and send it again.',
    ]);
  });
});
