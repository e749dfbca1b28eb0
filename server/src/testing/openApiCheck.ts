import { openApiDocument } from '@ladder/contract';
import { Ajv2020, type ValidateFunction } from 'ajv/dist/2020.js';
import addFormats from 'ajv-formats';

const ajv = new Ajv2020({ strict: false, allErrors: true });
addFormats.default(ajv);
const document = openApiDocument('test') as {
  paths: Record<string, Record<string, { responses: Record<string, { content?: Record<string, unknown> }> }>>;
};
ajv.addSchema(document, 'api');
const checks = new Map<string, ValidateFunction>();

const escapePart = (part: string): string => part.replaceAll('~', '~0').replaceAll('/', '~1');
const patterns = Object.keys(document.paths).map((path) => ({
  path,
  pattern: new RegExp(`^${path.replace(/\{\w+\}/g, '[^/]+')}$`),
  fixed: path.replace(/\{\w+\}/g, '').length,
}));

/** Throws where an answer is not what the OpenAPI document says of this address, method and status. */
export function checkAnswer(method: string, path: string, status: number, mediaType: string, body: unknown): void {
  const known = patterns.filter(({ pattern }) => pattern.test(path)).sort((a, b) => b.fixed - a.fixed)[0];
  if (!known) {
    if (status === 404) return;
    throw new Error(`The OpenAPI document does not know ${path}`);
  }
  const response = document.paths[known.path]?.[method.toLowerCase()]?.responses[status];
  if (!response)
    throw new Error(
      `The OpenAPI document does not say that ${method} ${known.path} can answer ${status}: ${JSON.stringify(body).slice(0, 400)}`,
    );
  if (!response.content) return;
  if (!response.content[mediaType]) throw new Error(`${method} ${known.path} answered ${status} as ${mediaType}`);
  if (!mediaType.includes('json')) return;
  const pointer = `api#/paths/${escapePart(known.path)}/${method.toLowerCase()}/responses/${status}/content/${escapePart(mediaType)}/schema`;
  const check = checks.get(pointer) ?? ajv.compile({ $ref: pointer.replaceAll('{', '%7B').replaceAll('}', '%7D') });
  checks.set(pointer, check);
  if (!check(body))
    throw new Error(
      `${method} ${known.path} ${status}: ${ajv.errorsText(check.errors?.slice(0, 4))}\n${JSON.stringify(body).slice(0, 600)}`,
    );
}
