import request from 'supertest';
import { path, ROUTES } from '@folvex/contract';
import { createApp } from '../../src/http/app';
import { configFrom } from '../../src/config';
import { useServer } from '../support/harness';
import { officeApp } from '../support/office';

const server = useServer();

const list = (host: string) => request(server.app).get(ROUTES.projects).set('Host', host);
const undo = (headers: Record<string, string>) =>
  request(server.app)
    .post(path(ROUTES.undo, { project: server.project }))
    .set(headers)
    .send({});

describe('A request', () => {
  it.each(['localhost:4780', '127.0.0.1:4780', '127.0.0.1', '[::1]:4780', 'LOCALHOST'])(
    'to %s is answered',
    async (host) => {
      expect((await list(host)).status).toBe(200);
    },
  );

  // A site may point any name of its own at this machine (DNS rebinding).
  it.each(['rebound.example:4780', 'localhost.example', '10.0.0.5:4780', 'a b', '127.0.0.1.example'])(
    'to %s is refused with a sentence, and tells nothing',
    async (host) => {
      const { status, body } = await list(host);
      expect([status, Object.keys(body as object)]).toEqual([421, ['problem']]);
      expect(body.problem.sentence).toContain('FOLVEX_NAMES');
    },
  );

  it('to a name that the server was given is answered', async () => {
    const { names } = configFrom({ FOLVEX_URL: 'https://folvex.office.example', FOLVEX_NAMES: 'Plans.example, ' }, '');
    const app = createApp(server.services, undefined, names);
    expect((await request(app).get(ROUTES.projects).set('Host', 'folvex.office.example')).status).toBe(200);
    expect((await request(app).get(ROUTES.projects).set('Host', 'plans.example:8080')).status).toBe(200);
    expect((await request(app).get(ROUTES.projects).set('Host', 'other.example')).status).toBe(421);
  });
});

describe('The settings of a server', () => {
  it.each([
    [{ FOLVEX_NAMES: 'plans.example' }, 'set FOLVEX_URL'],
    [{ FOLVEX_HOST: '0.0.0.0' }, 'set FOLVEX_URL'],
    [{ FOLVEX_URL: 'plans office' }, 'FOLVEX_URL is no address: plans office'],
  ])('that do not say which address people open are refused: %j', (environment, sentence) => {
    expect(() => configFrom(environment, '')).toThrow(sentence);
  });

  it('make an office by its address, and nothing else', () => {
    expect(configFrom({}, '').officeUrl).toBeUndefined();
    expect(configFrom({ FOLVEX_HOST: '127.0.0.2' }, '').officeUrl).toBeUndefined();
    const { officeUrl, names } = configFrom({ FOLVEX_URL: 'https://plans.example/', FOLVEX_HOST: '0.0.0.0' }, '');
    expect([officeUrl, [...names]]).toEqual(['https://plans.example', ['plans.example']]);
  });
});

describe('A proxy', () => {
  it('is trusted on this machine, and where its address is set', () => {
    const { proxies } = configFrom({ FOLVEX_PROXIES: '10.1.0.0/16, 192.0.2.7' }, '');
    const trusts = officeApp(server, { proxies }).get('trust proxy fn') as (address: string, hop: number) => boolean;
    const addresses = ['127.0.0.1', '10.1.2.3', '192.0.2.7', '10.2.0.1', '192.0.2.8'];
    expect(addresses.map((address) => trusts(address, 0))).toEqual([true, true, true, false, false]);
  });

  it.each(['proxy.example', '10.0.0.0/33', '10.0.0.1/8/8'])('that is no address is refused: %s', (proxy) => {
    expect(() => configFrom({ FOLVEX_PROXIES: proxy }, '')).toThrow(`FOLVEX_PROXIES names ${proxy}, which is no IP`);
  });
});

describe('The address of a bucket', () => {
  const keys = { AWS_ACCESS_KEY_ID: 'id', AWS_SECRET_ACCESS_KEY: 'secret' };

  it.each([
    [{ FOLVEX_BUCKET: 'plans', ...keys }, 'FOLVEX_BUCKET is no address of a bucket: plans; it has the form https://'],
    [{ FOLVEX_BUCKET: 'https://s3.example/', ...keys }, 'FOLVEX_BUCKET is no address of a bucket'],
    [{ FOLVEX_BUCKET: 'https://s3.example/plans' }, 'needs AWS_ACCESS_KEY_ID and AWS_SECRET_ACCESS_KEY'],
  ])('that cannot be one is refused: %j', (environment, sentence) => {
    expect(() => configFrom(environment, '')).toThrow(sentence);
  });

  it('names the service, the bucket and what its keys begin with', () => {
    expect(configFrom({}, '').bucket).toBeUndefined();
    const environment = { FOLVEX_BUCKET: 'https://s3.example:9000/plans/office/a', AWS_REGION: 'eu-1', ...keys };
    expect(configFrom(environment, '').bucket).toEqual({
      ...{ endpoint: 'https://s3.example:9000', bucket: 'plans', prefix: 'office/a/', region: 'eu-1' },
      ...{ accessKeyId: 'id', secretAccessKey: 'secret' },
    });
  });
});

describe('A change', () => {
  it('from the own page or from no page is made', async () => {
    const own = { Host: '127.0.0.1:4780', Origin: 'http://127.0.0.1:4780', 'Sec-Fetch-Site': 'same-origin' };
    for (const headers of [own, {}]) expect((await undo(headers)).body.problem?.code).not.toBe('request.origin');
  });

  it.each<Record<string, string>>([
    { Host: '127.0.0.1:4780', Origin: 'https://elsewhere.example' },
    { Host: '127.0.0.1:4780', Origin: 'http://127.0.0.1:9999' },
    { Host: '127.0.0.1:4780', Origin: 'null' },
    { Host: '127.0.0.1:4780', 'Sec-Fetch-Site': 'cross-site' },
    { Host: '127.0.0.1:4780', 'Sec-Fetch-Site': 'same-site' },
  ])('that another site asks for is refused: %j', async (headers) => {
    const { status, body } = await undo(headers);
    expect([status, body.problem.code]).toEqual([403, 'request.origin']);
  });
});
