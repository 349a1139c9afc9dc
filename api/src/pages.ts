/** Pages of the interface that something outside them leads to: a notice, a slip of the Desk, a calendar, a search. */
export const PAGES = {
  plan: '/courses/:courseId/plan',
  item: '/courses/:courseId/items/:itemId',
  study: '/courses/:courseId/study/:itemId',
  work: '/courses/:courseId/marking/:itemId/:enrolmentId?',
  peerSetting: '/courses/:courseId/items/:itemId/peer',
  peerSample: '/courses/:courseId/items/:itemId/peer/samples/:sampleId',
  peerBoard: '/courses/:courseId/items/:itemId/reviews',
  quizResults: '/courses/:courseId/quizzes/:itemId/results',
  announcements: '/courses/:courseId/announcements',
  messages: '/courses/:courseId/messages',
  progress: '/courses/:courseId/progress',
  finals: '/courses/:courseId/finals',
} as const;

type Names<P extends string> = P extends `${string}:${infer Name}/${infer Rest}`
  ? Name | Names<Rest>
  : P extends `${string}:${infer Name}`
    ? Name
    : never;
type Needed<N extends string> = N extends `${string}?` ? never : N;
type Optional<N extends string> = N extends `${infer Name}?` ? Name : never;
export type PageName = keyof typeof PAGES;
export type PageParams<N extends PageName> = { readonly [name in Needed<Names<(typeof PAGES)[N]>>]: string } & {
  readonly [name in Optional<Names<(typeof PAGES)[N]>>]?: string;
};

/** The address of a page, as a link leads to it: `pageOf('plan', { courseId: 'c' }, { item: 'i' })` is `/courses/c/plan?item=i`. */
export function pageOf<N extends PageName>(page: N, params: PageParams<N>, query: Readonly<Record<string, string>> = {}): string {
  const values = new Map(Object.entries(params as Readonly<Record<string, string | undefined>>));
  const path = PAGES[page].replace(/\/:(\w+)\??/g, (_, name: string) => {
    const value = values.get(name);
    return value === undefined ? '' : `/${encodeURIComponent(value)}`;
  });
  const asked = new URLSearchParams(query).toString();
  return asked === '' ? path : `${path}?${asked}`;
}
