import { allEndpoints, openApiDocument, parse } from '@ladder/contract';
import { Ajv2020 } from 'ajv/dist/2020.js';
import addFormats from 'ajv-formats';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { strangeBody } from '../testing/strangeBody.ts';
import { DOCUMENT } from '../testing/testServer.ts';

const ajv = new Ajv2020({ strict: false });
addFormats.default(ajv);
ajv.addSchema(openApiDocument('test'), 'api');

/** What the OpenAPI document says of an endpoint's body, as a reader of it would check it (JSON Schema 2020-12). */
function published(path: string, method: string) {
  const pointer = [path, method].map((part) =>
    part.replaceAll('/', '~1').replaceAll('{', '%7B').replaceAll('}', '%7D'),
  );
  return ajv.compile({ $ref: `api#/paths/${pointer.join('/')}/requestBody/content/application~1json/schema` });
}

/* That some characters cannot be stored is beyond what JSON Schema says. */
const beyondSchema = (body: unknown): boolean => /\\u0000|\\ud83c/.test(JSON.stringify(body));

describe('what the OpenAPI document says of a body is what requests are checked by', () => {
  const taking = allEndpoints.filter(({ body }) => body);

  it.each(taking.map((endpoint) => [endpoint.id, endpoint] as const))('%s', (_id, { path, method, body }) => {
    if (!body) throw new Error('No body');
    const check = published(path, method);
    fc.assert(
      fc.property(strangeBody(body.json), (value) => {
        fc.pre(!beyondSchema(value));
        expect([value, check(value)]).toEqual([value, parse(body, value, 'body').ok]);
      }),
      { numRuns: 300, seed: 11 },
    );
  });

  it('a whole process document passes both, and one with a part of another type neither', () => {
    const { path, method, body } = allEndpoints.find(({ id }) => id === 'saveDraft') ?? {};
    if (!path || !method || !body) throw new Error('No endpoint');
    const check = published(path, method);
    const both = (document: unknown) => [check({ document }), parse(body, { document }, 'body').ok];
    expect(both(DOCUMENT)).toEqual([true, true]);
    const [first, ...others] = DOCUMENT.stages;
    expect(both({ ...DOCUMENT, stages: [{ ...first, chance: 'half' }, ...others] })).toEqual([false, false]);
    expect(both({ ...DOCUMENT, skips: 'perhaps' })).toEqual([false, false]);
    expect(both({ ...DOCUMENT, extra: 1 })).toEqual([false, false]);
  });
});
