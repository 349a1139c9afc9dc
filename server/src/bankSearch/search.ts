import type { BankFolder } from '@rosemary/api';
import { listBelow, listQuestions } from '../bank/index.ts';
import type { MemberContext } from '../platform/route.ts';
import { sharedQuestions } from './sharedQuizzes.ts';

const words = (text: string | undefined): string[] => (text ?? '').split(',').filter((w) => w !== '');

/** What a search finds in the folders somebody reaches. */
export async function searchBank({ db, person, query }: MemberContext<undefined>, folders: readonly BankFolder[], most: number) {
  const asked = query.folder ?? '';
  const chosen = folders.some((f) => f.id === asked) ? await listBelow(db, asked) : folders.map((f) => f.id);
  const reached = new Set(folders.map((f) => f.id));
  // A quiz that a colleague shares is searched by itself.
  const questionIds = (query.quiz ?? '') === '' ? null : await sharedQuestions(db, person, query.quiz ?? '');
  const folderIds = questionIds === null ? chosen.filter((id) => reached.has(id)) : [];
  const found = await listQuestions(
    db,
    person,
    {
      folderIds,
      text: query.text ?? '',
      tags: words(query.tags),
      levels: words(query.levels),
      objectives: words(query.objectives),
      kinds: words(query.kinds),
      withRetired: query.retired === 'true',
      questionIds: questionIds ?? [],
    },
    most,
    Math.max(0, Number(query.from ?? '0') || 0),
  );
  return { ...found, folderIds };
}
