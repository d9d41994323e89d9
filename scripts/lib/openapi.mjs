import { join } from 'node:path';
import ts from 'typescript';
import { TypeSchemas } from './type-schemas.mjs';

/** Who may do what, in words. */
const NEEDS = {
  anyone: 'Anyone may do this, signed in or not.',
  somebody: 'Needs a session or a token.',
  person: 'Needs a session: a token cannot do this.',
  owner: 'Needs an owner of the installation.',
};
const JSON_TYPE = 'application/json';

/**
 * The description of the API (OpenAPI 3.1.0): its operations are the contract's, its schemas are made from the contract's
 * types. `contract` is the built module of its operations.
 */
export function openApi(root, { everyOperation }, version) {
  const schemas = contractSchemas(root);
  const paths = {};
  for (const { name, route, method, operation } of everyOperation()) {
    const address = route.replace(/:(\w+)/g, '{$1}');
    paths[address] ??= parametersOf(route);
    const operationId = `${method}${name[0].toUpperCase()}${name.slice(1)}`;
    paths[address][method] = { operationId, tags: [tagOf(address)], ...describe(schemas, operation) };
  }
  const refusal = schemas.of('Refusal');
  return {
    openapi: '3.1.0',
    info: { title: 'Folvex', version, description: INTRODUCTION },
    servers: [{ url: '/' }],
    paths,
    components: {
      responses: {
        Refused: {
          description: 'Refused: what is wrong, where, and what to do',
          content: { [JSON_TYPE]: { schema: refusal } },
        },
      },
      schemas: schemas.all(),
      securitySchemes: {
        token: { type: 'http', scheme: 'bearer', description: 'A token, created under Account.' },
        session: { type: 'apiKey', in: 'cookie', name: 'folvex.session' },
      },
    },
  };
}

const INTRODUCTION =
  'The pages of Folvex use exactly these requests. Where nobody signs in, neither a session nor a token is needed. A request ' +
  'that changes something must have no Origin header, or that of the server itself.';

function parametersOf(route) {
  const names = [...route.matchAll(/:(\w+)/g)].map(([, name]) => name);
  const parameters = names.map((name) => ({ name, in: 'path', required: true, schema: { type: 'string' } }));
  return parameters.length > 0 ? { parameters } : {};
}

function describe(schemas, { summary, needs, takes, query, answers }) {
  const responses = Object.entries(answers).map(([status, answer]) => [status, responseOf(schemas, answer)]);
  return {
    summary,
    description: NEEDS[needs] ?? `Needs the ${needs} role in the project.`,
    ...(query && { parameters: Object.entries(query).map(queryParameter) }),
    ...(takes && { requestBody: { required: true, content: requestContent(schemas, takes) } }),
    responses: { ...Object.fromEntries(responses), default: { $ref: '#/components/responses/Refused' } },
    security: securityOf(needs),
  };
}

/** Parts of addresses that belong to something that is listed under another name. */
const BELONGS_TO = {
  ...{ project: 'projects', removed: 'projects', redo: 'history', undo: 'history', offers: 'drawings' },
  ...{
    pictures: 'drawings',
    'issued-sheets': 'issues',
    destinations: 'transfer-servers',
    openapi: 'health',
    metrics: 'health',
  },
};

/** What an address is about: the part after the project, or else the first one. */
function tagOf(address) {
  const parts = address.replace(/^\/api\//, '').split('/');
  const [about] = (parts[0] === 'projects' ? (parts[2] ?? parts[0]) : parts[0]).split('.');
  return BELONGS_TO[about] ?? about;
}

function securityOf(needs) {
  if (needs === 'anyone') return [];
  return needs === 'person' ? [{ session: [] }] : [{ token: [] }, { session: [] }];
}

function queryParameter([name, description]) {
  return { name, in: 'query', description, schema: { type: 'string' } };
}

function requestContent(schemas, takes) {
  if (!takes.includes('/')) return { [JSON_TYPE]: { schema: schemas.of(takes) } };
  const file = { type: 'string', contentMediaType: 'application/octet-stream' };
  return { [takes]: { schema: { type: 'object', properties: { file }, required: ['file'] } } };
}

function responseOf(schemas, answer) {
  if (answer === '') return { description: 'Nothing' };
  if (!answer.includes('/')) return { description: answer, content: { [JSON_TYPE]: { schema: schemas.of(answer) } } };
  return { description: answer, content: Object.fromEntries(answer.split(' ').map((type) => [type, {}])) };
}

/** The schemas of the contract's types. */
function contractSchemas(root) {
  const folder = join(root, 'contract');
  const { config } = ts.readConfigFile(join(folder, 'tsconfig.json'), ts.sys.readFile);
  const { options } = ts.parseJsonConfigFileContent(config, ts.sys, folder);
  return new TypeSchemas(join(folder, 'src', 'index.ts'), { ...options, noEmit: true }, root, '#/components/schemas');
}
