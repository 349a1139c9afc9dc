import { loadImage } from '@napi-rs/canvas';
import type { QuestionView } from '@rosemary/api';
import {
  type Choice,
  type DocumentNode,
  filesIn,
  formatPoints,
  MANIFEST,
  ownForm,
  type QtiResource,
  type QtiTargets,
  type QtiVersion,
  writeItem,
  writeQtiManifest,
  writeStimulus,
  writeTest,
} from '@rosemary/core';
import { createHash } from 'node:crypto';
import { readWhole } from '../files/index.ts';
import type { QuizOut } from '../kinds/quiz/index.ts';
import { type Db, rows } from '../platform/database.ts';

interface PackageFile {
  readonly id: string;
  readonly name: string;
  readonly sha256: Buffer;
  readonly size: string;
  readonly media_type: string;
}

export interface QtiPackage {
  readonly texts: ReadonlyMap<string, string>;
  /** Files by their path in the package. */
  readonly files: ReadonlyMap<string, PackageFile>;
  /** What the standard has no words for, question by question. */
  readonly losses: readonly string[];
}

const itemId = (id: string): string => `q_${id}`;

const itemPath = (id: string): string => `items/${itemId(id)}.xml`;

const stimulusPath = (id: string): string => `stimuli/s_${id}.xml`;

const sumOf = (text: string): string => createHash('sha256').update(text).digest('hex');

const choicesOf = (q: QuestionView): readonly Choice[] => ('choices' in q.key ? q.key.choices : []);

const documentsOf = (q: QuestionView): (DocumentNode | null)[] => [
  q.words,
  ...choicesOf(q).flatMap((c) => [c.words, c.feedback]),
  ...[q.feedback.right, q.feedback.wrong, q.feedback.general],
  q.stimulus?.document ?? null,
];

const filesOf = (q: QuestionView): string[] => [
  ...documentsOf(q).flatMap((d) => filesIn(d)),
  ...(q.picture === null ? [] : [q.picture.fileId]),
];

async function findFiles(db: Db, courseId: string, questions: readonly QuestionView[], more: readonly string[]): Promise<PackageFile[]> {
  const ids = [...new Set([...questions.flatMap(filesOf), ...more])].filter((id) => /^[0-9a-f-]{36}$/.test(id));
  // Files of the course, and those that belong to the questions themselves, wherever they were written.
  return rows<PackageFile>(
    db,
    `select f.id, f.name, f.sha256, b.size, b.media_type from file f join file_blob b on b.sha256 = f.sha256 where f.id = any($1)
       and (f.course_id = $2 or exists (select 1 from question_file qf where qf.file_id = f.id and qf.question_id = any($3)))`,
    [ids, courseId, questions.map((q) => q.id)],
  );
}

const safe = (name: string): string =>
  name
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9._-]+/g, '_')
    .slice(-80);

// prettier-ignore

async function sizesOf(db: Db, questions: readonly QuestionView[], files: ReadonlyMap<string, PackageFile>) {
  const sizes = new Map<string, { width: number; height: number }>();
  for (const q of questions) {
    const file = q.picture === null || q.key.kind !== 'hotspot' ? undefined : files.get(q.picture.fileId);
    if (file === undefined || sizes.has(file.id)) continue;
    const { width, height } = await loadImage(await readWhole(db, file));
    sizes.set(file.id, { width, height });
  }
  return sizes;
}

/** A package of questions, and of a quiz that asks them, in one version of QTI. */
export async function makeQtiPackage(
  db: Db,
  courseId: string,
  questions: readonly QuestionView[],
  quiz: QuizOut | null,
  version: QtiVersion,
): Promise<QtiPackage> {
  const found = await findFiles(db, courseId, questions, quiz === null ? [] : filesIn(quiz.setting.instructions));
  const files = new Map(found.map((f) => [f.id, f]));
  const paths = new Map(found.map((f, n) => [f.id, `files/${n + 1}_${safe(f.name)}`]));
  const pathOf = (id: string): string | null => paths.get(id) ?? null;
  const sizes = await sizesOf(db, questions, files);
  const to: QtiTargets = {
    version,
    file: (id) => {
      const path = pathOf(id);
      return path === null ? null : `../${path}`;
    },
    picture: (id) => ({ ...(sizes.get(id) ?? { width: 1000, height: 1000 }), mediaType: files.get(id)?.media_type ?? 'image/png' }),
  };
  const texts = new Map<string, string>();
  const resources: QtiResource[] = [];
  const losses: string[] = [];
  const bare = { files: [], tags: [], objectives: [], level: null, needs: [], own: null, title: '' } as const;
  const fileId = (id: string): string => `f_${id}`;
  const stimuli = new Map(questions.flatMap((q) => (q.stimulus === null ? [] : [[q.stimulus.id, q.stimulus] as const])));
  const ownText = (sum: string, value: unknown): QtiResource['own'] => ({ sum, json: ownForm(value, pathOf) });
  if (version !== '2.1')
    for (const { id, title, document } of stimuli.values()) {
      const xml = writeStimulus({ id: `s_${id}`, title, document }, to);
      texts.set(stimulusPath(id), xml);
      const needs = filesIn(document).filter((f) => paths.has(f)).map(fileId); // prettier-ignore
      resources.push({
        ...bare,
        id: `s_${id}`,
        what: 'stimulus',
        path: stimulusPath(id),
        title,
        needs,
        own: ownText(sumOf(xml), { title, document }),
      });
    }
  for (const q of questions) {
    const stimulus = q.stimulus === null ? null : { ...q.stimulus, id: `s_${q.stimulus.id}` };
    const written = writeItem({ ...q, id: itemId(q.id), title: q.title, stimulus }, to);
    losses.push(...written.losses.map((loss) => `“${q.title}”: ${loss}.`));
    texts.set(itemPath(q.id), written.xml);
    const used = filesOf(q).filter((f) => paths.has(f));
    const own = {
      ...{ title: q.ownTitle, words: q.words, key: q.key, feedback: q.feedback, picture: q.picture },
      // Without a file of its own in this version, the shared text goes along with each of its questions.
      stimulus:
        version === '2.1' && q.stimulus !== null ? { id: q.stimulus.id, title: q.stimulus.title, document: q.stimulus.document } : null,
    };
    const needs = [...new Set(used)].map(fileId).concat(stimulus !== null && version !== '2.1' ? [stimulus.id] : []);
    resources.push({
      ...{ id: itemId(q.id), what: 'item', path: itemPath(q.id), files: [], title: q.ownTitle, tags: q.tags },
      ...{ objectives: q.objectives, level: q.level, needs, own: ownText(sumOf(written.xml), own) },
    });
  }
  if (quiz !== null) {
    const test = {
      id: `t_${quiz.id}`,
      ...{ title: quiz.title, instructions: quiz.setting.instructions, limitMinutes: quiz.setting.limitMinutes },
      mayGoBack: quiz.setting.mayGoBack,
      sections: quiz.sections.map((s) => ({
        ...s,
        parts: s.parts.map((p) => ({
          items: p.questionIds.map(itemPath),
          count: p.count,
          weight: Number(formatPoints(p.points).replace('−', '-')),
        })),
      })),
    };
    const path = `tests/t_${quiz.id}.xml`;
    const xml = writeTest(test, version, to.file);
    texts.set(path, xml);
    const { version: own, accessCode, allowedAddresses, ...setting } = quiz.setting;
    const floors = quiz.sections.map((s) => s.parts.map((p) => p.floor));
    const needs = questions.map((q) => itemId(q.id));
    resources.push({ ...bare, id: test.id, what: 'test', path, title: quiz.title, needs, own: ownText(sumOf(xml), { setting, floors }) });
  }
  for (const [id, path] of paths) resources.push({ ...bare, id: fileId(id), what: 'file', path });
  texts.set(MANIFEST, writeQtiManifest(`rosemary_${questions.length}`, resources, version));
  return { texts, files: new Map(found.map((f) => [paths.get(f.id) ?? '', f])), losses };
}
