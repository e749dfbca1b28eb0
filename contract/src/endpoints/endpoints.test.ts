import { describe, expect, it } from 'vitest';
import { allEndpoints, endpoints, ROLES } from '../index.ts';

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

  it('let a viewer change nothing but their own session', () => {
    const changing = allEndpoints.filter(({ method, callers }) => method !== 'get' && callers === 'signed_in');
    expect(changing.map(({ id }) => id)).toEqual(['signOut']);
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
