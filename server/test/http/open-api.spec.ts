import { Validator } from '@seriousme/openapi-schema-validator';
import express, { type Request, type Response } from 'express';
import request from 'supertest';
import { path, ROUTES } from '@folvex/contract';
import { everyOperation } from '@folvex/contract/operations';
import { described, OPEN_API, takeWrongAnswers } from '../support/described';
import { useServer } from '../support/harness';
import { officeApp } from '../support/office';

const server = useServer();

interface Described {
  paths: Record<string, Record<string, { operationId?: string }>>;
}

describe('the description of the API', () => {
  it('is OpenAPI 3.1, as the schema of the OpenAPI Initiative has it', async () => {
    const validator = new Validator();
    expect(await validator.validate(structuredClone(OPEN_API))).toEqual({ valid: true });
    expect(validator.version).toBe('3.1');
    // References that lead nowhere are refused.
    expect(() => validator.resolveRefs()).not.toThrow();
    const broken = JSON.parse(JSON.stringify(OPEN_API).replace('"3.1.0"', '"3.1.0","pathes":{}')) as Record<
      string,
      unknown
    >;
    expect((await new Validator().validate(broken)).valid).toBe(false);
  });

  it('has every operation, and is open to whoever is not signed in', async () => {
    const { status, body } = await request(officeApp(server)).get(ROUTES.openApi);
    expect(status).toBe(200);
    const ids = Object.values((body as Described).paths).flatMap((methods) =>
      Object.values(methods).flatMap(({ operationId }) => operationId ?? []),
    );
    expect(new Set(ids).size).toBe(everyOperation().length);
  });
});

describe('an answer that is not as described', () => {
  const answer = async (give: (response: Response) => void, method: 'get' | 'put' = 'get', body?: object) => {
    const app = described(express());
    app.use(express.json());
    app.get(ROUTES.live, (_request: Request, response: Response) => give(response));
    app.get(ROUTES.metrics, (_request: Request, response: Response) => give(response));
    app.put(ROUTES.runRemoved, (_request: Request, response: Response) => give(response));
    const route = method === 'put' ? path(ROUTES.runRemoved, { run: 'x' }) : ROUTES.live;
    await request(app)[method](route).send(body);
    return takeWrongAnswers().join();
  };

  it('is found: by its fields, its status, its type, and by what was accepted', async () => {
    expect(await answer((response) => response.json({ ok: true }))).toBe('');
    expect(await answer((response) => response.json({ ok: 'yes' }))).toContain('/ok must be');
    expect(await answer((response) => response.json({ ok: true, more: 1 }))).toContain('must NOT have additional');
    expect(await answer((response) => response.status(202).json({ ok: true }))).toContain('202: is not described');
    expect(await answer((response) => response.type('text/plain').send('fine'))).toContain('must be object');
    const problem = { code: 'not-found', sentence: 'Gone.', place: {} };
    expect(await answer((response) => response.status(404).json({ problem }))).toBe('');
    expect(await answer((response) => response.status(404).json({ error: 'gone' }))).toContain('is no refusal');
    const remove = (body: object) => answer((response) => response.json({}), 'put', body);
    expect(await remove({ removed: 'yes' })).toContain('took /removed must be boolean');
    expect(await remove({ removed: true })).toContain("must have required property 'id'");
  });
});
