import type { ApiDescription, ApiOperation, ApiParameter, JsonSchema } from '../../state/api-description';
import { partsOf, type Part } from './type-parts';

const METHODS = ['get', 'post', 'put', 'patch', 'delete'] as const;

/** What can be asked for, as it is shown. */
export interface ApiRequest {
  id: string;
  group: string;
  /** GET, POST … */
  method: string;
  address: string;
  summary: string;
  /** Who may. */
  access: string;
  parameters: readonly ApiParameter[];
  takes: Part[];
  answers: { status: string; parts: Part[] }[];
}

export interface RequestGroup {
  name: string;
  requests: ApiRequest[];
}

/** The requests whose address, words or types contain every word of a text, by what they are about. */
export function requestGroups({ paths }: ApiDescription, text: string): RequestGroup[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const groups = new Map<string, ApiRequest[]>();
  for (const [address, methods] of Object.entries(paths)) {
    for (const method of METHODS) {
      const operation = methods[method];
      if (!operation) continue;
      const request = requestOf(address, method, operation, methods.parameters ?? []);
      if (words.every((word) => wordsOf(request).includes(word)))
        groups.set(request.group, [...(groups.get(request.group) ?? []), request]);
    }
  }
  return [...groups].map(([name, requests]) => ({ name, requests }));
}

function requestOf(address: string, method: string, operation: ApiOperation, shared: ApiParameter[]): ApiRequest {
  const { operationId, tags, summary, description, parameters = [], requestBody, responses } = operation;
  const described = Object.entries(responses).filter(([, { $ref }]) => !$ref);
  return {
    ...{
      id: operationId,
      group: inWords(tags[0]!),
      method: method.toUpperCase(),
      address,
      summary,
      access: description,
    },
    parameters: [...shared, ...parameters],
    takes: contentParts(requestBody?.content),
    answers: described.map(([status, { content }]) => ({ status, parts: contentParts(content) })),
  };
}

/** Type of a JSON, or names of the media types; empty where there is no content. */
function contentParts(content: Record<string, { schema?: JsonSchema }> = {}): Part[] {
  const json = content['application/json']?.schema;
  if (json) return partsOf(json);
  const types = Object.keys(content).join(', ');
  return types === '' ? [] : [{ text: types }];
}

function inWords(tag: string): string {
  const words = tag.replaceAll('-', ' ');
  return words[0]!.toUpperCase() + words.slice(1);
}

function wordsOf({ group, method, address, summary, takes, answers }: ApiRequest): string {
  const types = [takes, ...answers.map(({ parts }) => parts)].flat().map((part) => part.text);
  return [group, method, address, summary, ...types].join(' ').toLowerCase();
}
