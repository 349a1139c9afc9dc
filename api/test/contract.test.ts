import * as api from '../src/endpoints.ts';
import { addressOf, asks, endpoint, is, urlOf, type Endpoint } from '../src/contract.ts';
import { PAGES, pageOf } from '../src/pages.ts';

const endpoints = Object.entries(api as Readonly<Record<string, unknown>>).filter(
  (entry): entry is [string, Endpoint] => typeof entry[1] === 'object',
);
const namesIn = (path: string): string[] => [...path.matchAll(/:(\w+)/g)].map((m) => m[1] ?? '');

describe('the address of an endpoint', () => {
  const read = endpoint({
    method: 'get',
    path: '/courses/:courseId/items/:itemId/version',
    needs: 'course.teach',
    query: asks({ number: 'whole', text: 'text' }),
    answer: is<object>(),
  });

  it('is its path with the parameters filled in, and the rest behind the question mark', () => {
    expect(addressOf(read, { courseId: 'c', itemId: 'i' })).toBe('/courses/c/items/i/version');
    expect(addressOf(read, { courseId: 'c', itemId: 'i', number: '3' })).toBe('/courses/c/items/i/version?number=3');
    expect(urlOf(read, { courseId: 'c', itemId: 'i' })).toBe('/api/courses/c/items/i/version');
  });

  it('cannot be led elsewhere by what is filled in', () => {
    expect(addressOf(read, { courseId: '../school', itemId: 'a/b?x=1#y' })).toBe('/courses/..%2Fschool/items/a%2Fb%3Fx%3D1%23y/version');
    expect(addressOf(read, { courseId: 'c', itemId: 'i', text: 'a & b = “c”' })).toBe(
      `/courses/c/items/i/version?${new URLSearchParams({ text: 'a & b = “c”' }).toString()}`,
    );
  });

  it('leaves out what is empty behind the question mark, and refuses an empty part of the path', () => {
    expect(addressOf(read, { courseId: 'c', itemId: 'i', number: '' })).toBe('/courses/c/items/i/version');
    expect(() => addressOf(read, { courseId: 'c', itemId: '' })).toThrow(
      'The address /courses/:courseId/items/:itemId/version lacks itemId.',
    );
  });
});

describe('the endpoints', () => {
  it('name each parameter once, and a course wherever a permission is needed', () => {
    for (const [name, at] of endpoints) {
      const names = namesIn(at.path);
      expect([name, new Set(names).size]).toEqual([name, names.length]);
      const isOfCourse = !['public', 'person', 'school.administer'].includes(at.needs);
      expect([name, names.includes('courseId')]).toEqual([name, isOfCourse]);
    }
  });

  it('take no body with a deletion: some proxies drop it', () => {
    expect(endpoints.filter(([, at]) => at.method === 'delete' && at.body !== undefined).map(([name]) => name)).toEqual([]);
  });

  it('are taken back with parameters that the first one knows, or that its answer gives', () => {
    const strange = endpoints.flatMap(([name, at]) => {
      if (at.method === 'get' || at.movesGrades !== true || at.undo === 'itself' || 'none' in at.undo) return [];
      const more = namesIn(at.undo.path).filter((n) => !namesIn(at.path).includes(n));
      return more.length > 0 ? [[name, ...more]] : [];
    });
    // What was made has an identifier only once it is there.
    expect(strange.sort()).toEqual([
      ['addGradeColumn', 'itemId'],
      ['askRevision', 'revisionId'],
      ['correctQuestion', 'correctionId'],
      ['giveItems', 'givingId'],
      ['openByHand', 'openingId'],
    ]);
  });
});

describe('the address of a page', () => {
  it('is filled in, without what may be left out', () => {
    expect(pageOf('study', { courseId: 'c', itemId: 'i' })).toBe('/courses/c/study/i');
    expect(pageOf('work', { courseId: 'c', itemId: 'i' })).toBe('/courses/c/marking/i');
    expect(pageOf('work', { courseId: 'c', itemId: 'i', enrolmentId: 'e' })).toBe('/courses/c/marking/i/e');
    expect(pageOf('plan', { courseId: 'c' }, { item: 'i' })).toBe('/courses/c/plan?item=i');
  });

  it('is of a course, for every page that something leads to', () => {
    expect(Object.values(PAGES).every((path) => path.startsWith('/courses/:courseId/'))).toBe(true);
  });
});
