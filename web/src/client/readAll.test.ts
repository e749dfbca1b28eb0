import { expect, it } from 'vitest';
import { readAll } from './readAll.ts';

const list = Array.from({ length: 450 }, (_none, place) => place);
const asked: string[] = [];
const served = (url: string) => {
  asked.push(url);
  const query = new URLSearchParams(url.split('?')[1]);
  const from = Number(query.get('after') ?? 0);
  const to = from + Number(query.get('limit'));
  return { data: { items: list.slice(from, to), next: to < list.length ? String(to) : null } };
};

it('reads page after page, each from where the one before ended', async () => {
  expect(await readAll<number>(served, '/people')).toEqual({ data: { items: list, next: null } });
  expect(asked).toEqual(['/people?limit=200', '/people?limit=200&after=200', '/people?limit=200&after=400']);
});

it('asks for what is wanted, and says where it stopped once it has the most that is wanted', async () => {
  asked.length = 0;
  expect(await readAll<number>(served, '/runs', { late: 'yes', step: null }, 300)).toEqual({
    data: { items: list.slice(0, 400), next: '400' },
  });
  expect(asked).toEqual(['/runs?late=yes&limit=200', '/runs?late=yes&limit=200&after=200']);
});

it('gives the error of the page that could not be read, and no half of a list', async () => {
  const error = { status: 503, data: null };
  const answer = await readAll<number>((url) => (url.includes('after=200') ? { error } : served(url)), '/people');
  expect(answer).toEqual({ error });
});
