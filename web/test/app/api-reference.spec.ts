import description from '../../../contract/openapi.json';
import { ApiReferencePage } from '../../src/app/api-reference/api-reference';
import { requestGroups } from '../../src/app/api-reference/requests';
import { partsOf } from '../../src/app/api-reference/type-parts';
import type { ApiDescription, JsonSchema } from '../../src/state/api-description';
import { LookupActions } from '../../src/state/lookups/lookups.actions';
import { all, show, text } from '../support/parts';
import { after } from '../support/state';

const API = description as unknown as ApiDescription;
const key = 'apiDescription {}';
const asked = LookupActions.lookupAskedFor({ key, kind: 'apiDescription', query: {} });
const written = (schema: JsonSchema): string =>
  partsOf(schema)
    .map((part) => part.text)
    .join('');

describe('the API reference', () => {
  it('lists every request with its access, and the type that was chosen', async () => {
    const state = after(asked, LookupActions.answerArrived({ key, answer: API }));
    const fixture = await show(ApiReferencePage, {}, state);
    const operations = Object.values(API.paths).flatMap((methods) => Object.keys(methods)).length;
    const shared = Object.values(API.paths).filter(({ parameters }) => parameters).length;
    expect(all(fixture, 'mat-expansion-panel')).toHaveLength(operations - shared);
    const publish = all(fixture, 'mat-expansion-panel').find((one) =>
      one.textContent!.includes('Publishes a package'),
    )!;
    publish.querySelector('mat-expansion-panel-header')!.dispatchEvent(new MouseEvent('click', { bubbles: true }));
    await fixture.whenStable();
    expect(publish.textContent).toContain('Needs the drafter role');
    const types = [...publish.querySelectorAll('button')].map((one) => one.textContent!.trim());
    expect(types).toEqual(['RunOptions', 'RunInfo', 'StoppedRun']);
    publish.querySelectorAll('button')[2]!.click();
    await fixture.whenStable();
    expect(all(fixture, 'aside h2')[0]!.textContent).toBe('StoppedRun');
    expect(all(fixture, 'aside tbody td').map((cell) => cell.textContent!.trim())).toEqual([
      'findings',
      'Finding[]',
      '',
    ]);
  });

  it('is narrowed by address, words and types', () => {
    const found = (wanted: string) => requestGroups(API, wanted).flatMap(({ requests }) => requests);
    expect(found('').length).toBeGreaterThan(80);
    expect(found('patch packages').map(({ address }) => address)).toEqual([
      '/api/projects/{project}/packages/{package}',
    ]);
    expect(found('StoppedRun').map(({ id }) => id)).toEqual(['postRuns']);
    expect(found('nothing of the kind')).toEqual([]);
  });

  it('says why it is not there', async () => {
    const problem = { code: 'offline' as const, sentence: 'The server does not answer.', place: {} };
    const fixture = await show(ApiReferencePage, {}, after(asked, LookupActions.lookupRefused({ key, problem })));
    expect(text(fixture)).toContain('The server does not answer.');
  });
});

describe('a type', () => {
  it.each<[string, JsonSchema]>([
    ['Sheet[]', { type: 'array', items: { $ref: '#/components/schemas/Sheet' } }],
    ['"fit" | number | null', { anyOf: [{ enum: ['fit'] }, { type: 'number' }, { type: 'null' }] }],
    ['("a" | "b")[]', { type: 'array', items: { enum: ['a', 'b'] } }],
    ['[number, string]', { type: 'array', prefixItems: [{ type: 'number' }, { type: 'string' }] }],
    ['{ x: number; y?: true }', { properties: { x: { type: 'number' }, y: { const: true } }, required: ['x'] }],
    ['{ [name]: string }', { type: 'object', additionalProperties: { type: 'string' } }],
    ['any', {}],
  ])('is written as %s', (words, schema) => expect(written(schema)).toBe(words));
});
