import type { QtiDone } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { QTI_VERSIONS, type QtiVersion } from '@rosemary/core';
import { folderOf, listFolders } from '../bank/index.ts';
import { searchBank } from '../bankSearch/index.ts';
import { sendZip, storedPart, withPackage, type Zip } from '../files/index.ts';
import { itemOf, readQuizOut } from '../kinds/quiz/index.ts';
import { invalid } from '../platform/errors.ts';
import { implement, type MemberContext, type Route, type Sending } from '../platform/route.ts';
import { bringQti } from './qtiIn.ts';
import { makeQtiPackage, type QtiPackage } from './qtiOut.ts';

const MOST_QUESTIONS = 1000;

function versionOf(c: MemberContext<undefined>): QtiVersion {
  const asked = c.query.version ?? '';
  const version = QTI_VERSIONS.find((v) => v === asked);
  if (version === undefined)
    throw invalid('version', `“${asked}” is no version that can be written. There are ${QTI_VERSIONS.join(', ')}.`);
  return version;
}

async function bankPackage(c: MemberContext<undefined>): Promise<QtiPackage> {
  const { questions } = await searchBank(c, await listFolders(c.db, c.person, false), MOST_QUESTIONS);
  if (questions.length === 0) throw invalid('questions', 'No question is found by this search, so there is nothing to export.');
  return makeQtiPackage(c.db, c.courseId, questions, null, versionOf(c));
}

async function quizPackage(c: MemberContext<undefined>): Promise<QtiPackage & { readonly title: string }> {
  const { quiz, questions } = await readQuizOut(c.db, c.person, c.courseId, itemOf(c), c.now);
  return { ...(await makeQtiPackage(c.db, c.courseId, questions, quiz, versionOf(c))), title: quiz.title };
}

/** What is told of a package before it is taken out. */
const lookedAt = ({ losses, texts }: QtiPackage): { losses: readonly string[]; items: number } => ({
  losses,
  items: [...texts.keys()].filter((path) => path.startsWith('items/')).length,
});

const sendPackage = (c: MemberContext<undefined>, made: QtiPackage, name: string): Sending =>
  sendZip(name, new Date(c.now), c.response, () => [
    ...[...made.texts].map(([path, text]) => ({ name: path, bytes: Buffer.from(text) })),
    ...[...made.files].map(([path, file]) => storedPart(path, file)),
  ]);

async function bringPackage(c: MemberContext<undefined>, zip: Zip, isPreview: boolean): Promise<QtiDone> {
  const [folder, unit] = [c.query.folder ?? '', c.query.unit ?? ''];
  const folderId = folder === '' ? await folderOf(c.db, c.courseId) : folder;
  const done = await bringQti(c.db, c.person, c.courseId, zip, { folderId, unitId: unit === '' ? null : unit, isPreview }, c.now);
  const after = { questions: done.questions.length, quizzes: done.quizzes.length };
  c.account({ after });
  return done;
}

/** Questions and quizzes out as packages of QTI, and in. */
export const qtiRoutes: readonly Route[] = [
  implement(api.getBankPackage, async (c) => sendPackage(c, await bankPackage(c), `questions QTI ${versionOf(c)}.zip`)),
  implement(api.getBankPackageLosses, async (c) => lookedAt(await bankPackage(c))),
  implement(api.getQuizPackage, async (c) => {
    const made = await quizPackage(c);
    return sendPackage(c, made, `${made.title} QTI ${versionOf(c)}.zip`);
  }),
  implement(api.getQuizPackageLosses, async (c) => lookedAt(await quizPackage(c))),
  // Looking does everything and takes it back; nobody else has to know.
  implement(api.previewQuestionPackage, (c) => withPackage(c.file, (zip) => bringPackage(c, zip, true))),
  implement(api.importQuestionPackage, (c) => withPackage(c.file, (zip) => bringPackage(c, zip, false))),
];
