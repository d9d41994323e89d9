/** The parts of an OpenAPI 3.1 description that are shown. */
export interface ApiDescription {
  info: { version: string; description: string };
  /** By address and method; an address may have parameters of its own. */
  paths: Record<string, { parameters?: ApiParameter[] } & Record<string, ApiOperation>>;
  components: { schemas: Record<string, JsonSchema> };
}

export interface ApiParameter {
  name: string;
  in: 'path' | 'query';
  description?: string;
}

export interface ApiOperation {
  operationId: string;
  tags: string[];
  summary: string;
  description: string;
  parameters?: ApiParameter[];
  requestBody?: { content: Record<string, { schema?: JsonSchema }> };
  /** By status; one that refers to another is a refusal. */
  responses: Record<string, { content?: Record<string, { schema?: JsonSchema }>; $ref?: string }>;
}

/** A JSON Schema (2020-12), as far as the description has it. */
export interface JsonSchema {
  $ref?: string;
  description?: string;
  type?: string;
  const?: unknown;
  enum?: unknown[];
  anyOf?: JsonSchema[];
  items?: JsonSchema;
  prefixItems?: JsonSchema[];
  properties?: Record<string, JsonSchema>;
  required?: string[];
  additionalProperties?: JsonSchema | false;
}
