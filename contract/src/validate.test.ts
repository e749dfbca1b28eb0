import { describe, expect, it } from 'vitest';
import { allEndpoints, deal, openApiDocument, parse, people, processes } from './index.ts';
import { id, integer, list, nullable, object, oneOf, optional, tagged, text } from './schema.ts';

const pointers = (result: ReturnType<typeof parse>) => (result.ok ? [] : result.problems.map(({ pointer }) => pointer));

describe('checking what comes in', () => {
  const shape = object({
    name: text({ max: 5 }),
    age: optional(integer(0, 9)),
    tags: list(text()),
    note: nullable(text()),
  });

  it('takes what fits, and points at everything that does not', () => {
    expect(parse(shape, { name: 'a', tags: [], note: null }, 'body')).toEqual({
      ok: true,
      value: { name: 'a', tags: [], note: null },
    });
    expect(pointers(parse(shape, { name: 'too long', age: 10, tags: ['', 'x'], extra: 1 }, 'body')).sort()).toEqual([
      '/age',
      '/extra',
      '/name',
      '/note',
      '/tags/0',
    ]);
  });

  it('reads numbers in a query, and nowhere else', () => {
    const query = object({ limit: integer(1, 200) });
    expect(parse(query, { limit: '7' }, 'query')).toEqual({ ok: true, value: { limit: 7 } });
    expect(parse(query, { limit: '7' }, 'body').ok).toBe(false);
  });

  it('refuses characters that PostgreSQL cannot store', () => {
    expect(pointers(parse(object({ name: text() }), { name: 'a\u0000b' }, 'body'))).toEqual(['/name']);
  });

  it('tells what is wrong in few words, however long what was sent is', () => {
    const told = (sent: object): readonly string[] => {
      const result = parse(object({ owner: id() }), sent, 'body');
      return result.ok ? [] : result.problems.map(({ detail }) => detail);
    };
    expect(told({ owner: 'é'.repeat(100_000) })).toEqual(['Owner must be an id.']);
    const [strange] = told({ owner: '01900000-0000-7000-8000-000000000001', ['x'.repeat(100_000)]: 1 });
    expect(strange).toMatch(/^X+…$/i);
    expect(strange).toHaveLength(300);
  });

  it('tells shapes apart by their tag, and names the tags there are', () => {
    const either = tagged(
      'kind',
      object({ kind: oneOf(['a']), one: text() }),
      object({ kind: oneOf(['b', 'c']), two: integer() }),
    );
    expect(parse(either, { kind: 'c', two: 1 }, 'body').ok).toBe(true);
    expect(pointers(parse(either, { kind: 'a', two: 1 }, 'body')).sort()).toEqual(['/one', '/two']);
    const strange = parse(either, { kind: 'x' }, 'body');
    expect(!strange.ok && strange.problems[0]?.detail).toContain('[a, b, c]');
  });

  it('escapes pointers as RFC 6901 says: ~0 for ~ and ~1 for /', () => {
    const result = parse(
      deal.newDeal,
      { process: '00000000-0000-4000-8000-000000000000', name: 'x', values: { 'a/b~c': { minor: 'x' } } },
      'body',
    );
    expect(pointers(result)[0]).toContain('/values/a~1b~0c');
  });

  it('points into a criterion at any depth', () => {
    const of = (inner: unknown) => ({ kind: 'all', of: [{ kind: 'not', of: { kind: 'any', of: [inner] } }] });
    expect(parse(processes.criterion, of({ kind: 'set', left: { of: 'field', field: 'x' } }), 'body').ok).toBe(true);
    expect(pointers(parse(processes.criterion, of({ kind: 'set', left: { of: 'field' } }), 'body'))).toEqual([
      '/of/0/of/of/0/left/field',
    ]);
  });
});

describe('the OpenAPI document', () => {
  const document = JSON.stringify(openApiDocument('1'));

  it('refers only to schemas it has', () => {
    const { components } = JSON.parse(document);
    for (const [, name] of document.matchAll(/#\/components\/schemas\/(\w+)/g))
      expect(components.schemas).toHaveProperty(name ?? '');
  });

  it('says of every endpoint who may call it and with what it may refuse', () => {
    const { paths } = JSON.parse(document);
    for (const { path, method, callers, problems } of allEndpoints) {
      const operation = paths[path][method];
      for (const status of [...(problems ?? []), ...(callers === 'anyone' ? [] : [401, 403])])
        expect(operation.responses).toHaveProperty(String(status));
      if (typeof callers !== 'string') expect(operation.description).toContain(callers[0]);
    }
    expect(people.signIn.json.required).toEqual(['email', 'password']);
  });
});
