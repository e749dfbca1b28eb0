import { describe, expect, it } from 'vitest';
import { allEndpoints, endpoints, openApiDocument, ROLES } from '../index.ts';

describe('the endpoints', () => {
  it('have an id and an address of their own', () => {
    expect(new Set(allEndpoints.map(({ id }) => id)).size).toBe(allEndpoints.length);
    const addresses = allEndpoints.map(({ method, path }) => `${method} ${path.replace(/\{\w+\}/g, '{}')}`);
    expect(new Set(addresses).size).toBe(addresses.length);
    for (const [name, { id }] of Object.entries(endpoints)) expect(id).toBe(name);
  });

  it('describe every part of their path, and no other', () => {
    for (const { path, params, id } of allEndpoints) {
      const named = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => name).sort();
      expect([id, Object.keys((params?.json.properties ?? {}) as object).sort()]).toEqual([id, named]);
    }
  });

  it('read with GET, and nothing else reads', () => {
    for (const { method, body, id } of allEndpoints) if (method === 'get') expect([id, body]).toEqual([id, undefined]);
  });

  it('list page by page: whatever answers with a page takes where it begins and how long it is', () => {
    for (const { answer, query, id } of allEndpoints) {
      const properties = (answer?.json.properties ?? {}) as object;
      if (!('items' in properties && 'next' in properties)) continue;
      expect([id, Object.keys((query?.json.properties ?? {}) as object)]).toEqual([
        id,
        expect.arrayContaining(['after', 'limit']),
      ]);
    }
  });

  it('let a viewer change nothing but their own session, password and bell', () => {
    const changing = allEndpoints.filter(({ method, callers }) => method !== 'get' && callers === 'signed_in');
    expect(changing.map(({ id }) => id)).toEqual([
      'signOut',
      'changeOwnPassword',
      'readNotices',
      'setBellChoices',
      'watchDeal',
      'unwatchDeal',
    ]);
    for (const { callers, method, id } of allEndpoints)
      if (method !== 'get' && Array.isArray(callers)) expect([id, callers.includes('viewer')]).toEqual([id, false]);
  });

  it('let an administrator do everything', () => {
    for (const { callers, id } of allEndpoints)
      if (typeof callers !== 'string') {
        expect([id, callers.includes('administrator')]).toEqual([id, true]);
        expect(callers.every((role) => ROLES.includes(role))).toBe(true);
      }
  });
});

describe('the OpenAPI document', () => {
  const document = openApiDocument('test') as unknown as {
    paths: Record<string, Record<string, Operation>>;
    components: { securitySchemes: Record<string, { in: string; name: string }> };
  };
  interface Operation {
    readonly security: object[];
    readonly parameters: { name: string; in: string; schema: { pattern?: string } }[];
    readonly responses: Record<string, { headers?: object }>;
  }
  const operation = (id: string): Operation => {
    const endpoint = allEndpoints.find((candidate) => candidate.id === id);
    const found = endpoint && document.paths[endpoint.path]?.[endpoint.method];
    if (!found) throw new Error(id);
    return found;
  };

  it('says how requests carry who asks: the cookie, and its token where something is changed', () => {
    expect(document.components.securitySchemes).toMatchObject({
      session: { in: 'cookie', name: 'ladder_session' },
      token: { in: 'header', name: 'X-Ladder-Token' },
    });
    expect(operation('getDeal').security).toEqual([{ session: [] }]);
    expect(operation('editDeal').security).toEqual([{ session: [], token: [] }]);
    expect(operation('signIn').security).toEqual([]);
  });

  it('says the form of If-Match and of the ETag it takes', () => {
    const [header] = operation('saveDraft').parameters.filter(({ name }) => name === 'If-Match');
    expect(new RegExp(header?.schema.pattern ?? 'none').test('"7"')).toBe(true);
    expect(operation('getDraft').responses[200]?.headers).toHaveProperty('ETag');
  });

  it('leaves nothing untyped but what a stale request is told of the present, and itself', () => {
    const untyped = JSON.stringify(document).match(/"[A-Za-z]+":\{\}/g);
    expect(new Set(untyped)).toEqual(new Set(['"current":{}', '"schema":{}']));
  });

  it('lists 422 wherever a key may be used for another request', () => {
    for (const { id, headers } of allEndpoints)
      if (headers?.includes('Idempotency-Key')) expect([id, 422 in operation(id).responses]).toEqual([id, true]);
  });
});
