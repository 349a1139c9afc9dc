import {
  newQuestion,
  type NewQuestion,
  type QtiDone,
  type QtiQuestionDone,
  type QtiQuizDone,
  quizChange,
  type QuizChange,
  STORE_TYPES,
  validationOptions,
} from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import {
  type Actor,
  type DocumentNode,
  entryFinder,
  fromOwnForm,
  type HtmlFile,
  MANIFEST,
  plainText,
  qtiElements,
  type QtiManifest,
  type QtiNode,
  type QtiProblem,
  type QtiResource,
  type QtiSources,
  QtiUnread,
  readItem,
  readQtiManifest,
  readQtiXml,
  readStimulus,
  readTest,
  readTestWords,
} from '@rosemary/core';
import { createHash, randomUUID } from 'node:crypto';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { addQuestion, listFaults, listWords, SAME_WORDS, saveStimulus } from '../bank/index.ts';
import { decodeText, storeFile, type Zip } from '../files/index.ts';
import { MOST_ARRIVING_BYTES } from '../platform/arrival.ts';
import { bringQuiz, type BroughtQuiz } from '../kinds/quiz/index.ts';
import { addItem } from '../plan/index.ts';
import { type Db, run } from '../platform/database.ts';
import { makeFolder } from '../platform/folder.ts';
import { invalid } from '../platform/errors.ts';
import { piece } from '../platform/piece.ts';

const MOST_XML = 4_194_304;

const MOST_MANIFEST = 20_971_520;

const MOST_ITEMS = 1000;

const MOST_CODE = 60;

export interface QtiWish {
  readonly folderId: string;
  /** Where quizzes are made of the tests; null brings the questions alone. */
  readonly unitId: string | null;
  readonly isPreview: boolean;
}

interface MadeQuestion {
  readonly id: string;
  /** What the item is worth by itself, in thousandths. */
  readonly points: number;
  readonly takesAway: boolean;
}

interface Bringing {
  readonly db: Db;
  readonly actor: Actor;
  readonly courseId: string;
  readonly folderId: string;
  readonly now: number;
  readonly zip: Zip;
  readonly find: (base: string, address: string) => string | null;
  /** A folder on the disk for the file that is on its way into the store. */
  readonly disk: string;
  readonly files: Map<string, HtmlFile>;
  readonly resources: ReadonlyMap<string, QtiResource>;
  readonly stimuli: Map<string, string>;
  readonly made: Map<string, readonly MadeQuestion[]>;
}

const said = (problems: readonly QtiProblem[]): string[] => problems.map((p) => `${p.element}: ${p.text}`);

/** An XML file of the package, with whether it is as we wrote it. */
async function readXmlFile(b: Bringing, path: string): Promise<{ root: QtiNode; own: string | null }> {
  if (!b.zip.sizes.has(path)) throw invalid('file', `The package names “${path}”, and it is not in it.`);
  const bytes = await b.zip.readBytes(path, MOST_XML);
  const read = readQtiXml(decodeText(bytes, 'xml').text);
  if (!read.ok) throw invalid('file', `“${path}” cannot be read: ${read.reason}.`);
  const own = b.resources.get(path)?.own ?? null;
  const isOurs = own !== null && createHash('sha256').update(bytes).digest('hex') === own.sum;
  return { root: read.root, own: isOurs ? own.json : null };
}

/** Stores what an item shows, each file once; gives what became new, so that it can be forgotten with an item that fails. */
async function storeShown(b: Bringing, path: string, root: QtiNode, fresh: string[]): Promise<void> {
  const addresses = qtiElements(root, 'img', 'object', 'audio', 'video', 'source', 'track').flatMap((n) => [n.attrs.src, n.attrs.data]);
  for (const address of addresses) {
    const entry = address === undefined ? null : b.find(path, address);
    if (entry === null || b.files.has(entry)) continue;
    const onDisk = join(b.disk, 'file');
    await b.zip.writeTo(entry, onDisk);
    const name = (entry.split('/').at(-1) ?? 'file').replace(/^\d+_/, '');
    const stored = await storeFile(b.db, {
      path: onDisk,
      // Names from a form come as Latin-1; this one is given in the same dress.
      name: Buffer.from(name, 'utf8').toString('latin1'),
      ...{ courseId: b.courseId, ownerId: b.actor.personId, now: b.now },
      ...{ types: Object.keys(STORE_TYPES), mostBytes: MOST_ARRIVING_BYTES.file },
    });
    const src = urlOf(api.getFile, { courseId: b.courseId, fileId: stored.id });
    b.files.set(entry, { fileId: stored.id, src, name, mediaType: stored.mediaType });
    fresh.push(entry);
  }
}

const sourcesAt = (b: Bringing, path: string): QtiSources => ({
  newId: randomUUID,
  file: (address) => b.files.get(b.find(path, address) ?? '') ?? null,
});

const ownFile = (b: Bringing) => (path: string) => b.files.get(path) ?? null;

async function makeStimulus(b: Bringing, key: string, title: string, document: DocumentNode): Promise<string> {
  const known = b.stimuli.get(key);
  if (known !== undefined) return known;
  const made = await saveStimulus(b.db, b.actor, b.folderId, { id: null, version: 1, title: title.slice(0, 200), document });
  b.stimuli.set(key, made.id);
  return made.id;
}

async function sharedText(b: Bringing, path: string, fresh: string[], notes: string[]): Promise<string> {
  const known = b.stimuli.get(path);
  if (known !== undefined) return known;
  const { root, own } = await readXmlFile(b, path);
  await storeShown(b, path, root, fresh);
  const read = readStimulus(root, sourcesAt(b, path));
  notes.push(...read.problems.map((p) => `assessmentStimulus: ${p}`));
  const held = own === null ? null : (fromOwnForm(own, ownFile(b)) as { title?: string; document?: DocumentNode } | null);
  return makeStimulus(b, path, held?.title ?? read.title, held?.document ?? read.document);
}

interface OwnQuestion extends NewQuestion {
  readonly stimulus?: { readonly id: string; readonly title: string; readonly document: DocumentNode } | null;
}

async function bringItem(
  b: Bringing,
  resource: QtiResource,
  notes: string[],
  fresh: string[],
  named: (title: string) => void,
): Promise<readonly [NewQuestion, MadeQuestion][]> {
  const { path } = resource;
  const { root, own } = await readXmlFile(b, path);
  named((root.attrs.title ?? '').trim());
  await storeShown(b, path, root, fresh);
  const read = readItem(root, sourcesAt(b, path));
  const isCode = (text: string): boolean => text.length <= MOST_CODE;
  for (const text of resource.objectives.filter((o) => !isCode(o)))
    notes.push(`classification: “${text.slice(0, 60)}…” is too long for the code of an objective and was left out.`);
  const labels = { tags: resource.tags.map((t) => t.slice(0, 40)), objectives: resource.objectives.filter(isCode), level: resource.level };
  const refs = read.stimulusRefs.map((ref) => b.find(path, ref));
  const shared = refs[0] === null || refs[0] === undefined ? null : await sharedText(b, refs[0], fresh, notes);
  if (refs.includes(null)) notes.push('assessmentStimulusRef: The shared text it names is not in the package.');
  if (refs.length > 1) notes.push('assessmentStimulusRef: It rests on several shared texts; the first is kept.');
  const held = own === null ? null : (fromOwnForm(own, ownFile(b)) as OwnQuestion | null);
  const made: [NewQuestion, MadeQuestion][] = [];
  for (const question of read.questions) {
    const { title, words, key, feedback, picture, stimulus, points, takesAway } = question;
    const text = held === null ? stimulus : (held.stimulus ?? stimulus);
    const stimulusId =
      text === null ? shared : await makeStimulus(b, JSON.stringify([text.id, text.title, text.document]), text.title, text.document);
    const standard = { title: (title || resource.title).slice(0, 200), words, key, feedback, picture };
    const { stimulus: _, ...kept } = held ?? {};
    const ours = held === null ? null : newQuestion.validate({ ...kept, ...labels, stimulusId }, validationOptions);
    if (ours === null || ours.error !== undefined) notes.push(...said(read.problems));
    const { error, value } = ours?.error === undefined && ours !== null ? ours : newQuestion.validate({ ...standard, ...labels, stimulusId }, validationOptions); // prettier-ignore
    if (error !== undefined) throw invalid('file', error.details.map((d) => d.message).join(' '));
    // A millisecond apart, so that they stand in the bank in the order they had.
    const id = await addQuestion(b.db, b.actor, b.folderId, value as NewQuestion, b.now + b.made.size);
    made.push([value as NewQuestion, { id, points, takesAway }]);
  }
  return made;
}

const reasonOf = (error: unknown, reason: string): string => (error instanceof QtiUnread ? `${error.element}: ${error.message}` : reason);

async function bringItems(b: Bringing, items: readonly QtiResource[]): Promise<QtiQuestionDone[]> {
  const done: QtiQuestionDone[] = [];
  const here = await listWords(b.db, b.folderId);
  for (const resource of items) {
    const base = { item: resource.path, title: resource.title || resource.path, kind: '', id: null, notes: [] };
    const [notes, fresh]: [string[], string[]] = [[], []];
    let title = '';
    const before = new Set(b.stimuli.keys());
    const result = await piece(b.db, () => bringItem(b, resource, notes, fresh, (t) => (title = t)));
    if (!result.ok) {
      // What was stored for it is gone with it.
      for (const entry of fresh) b.files.delete(entry);
      for (const key of [...b.stimuli.keys()]) if (!before.has(key)) b.stimuli.delete(key);
      done.push({ ...base, title: title || base.title, problem: reasonOf(result.error, result.reason) });
      continue;
    }
    b.made.set(resource.path, result.value.map(([, made]) => made)); // prettier-ignore
    result.value.forEach(([wish, made], n) => {
      const words = plainText(wish.words).replace(/\s+/g, ' ').trim();
      done.push({
        ...base,
        id: made.id,
        kind: wish.key.kind,
        title: wish.title || words.slice(0, 80) || base.title,
        problem: '',
        notes: [...new Set([...(n === 0 ? notes : []), ...(here.has(plainText(wish.words)) ? [SAME_WORDS] : [])])],
      });
    });
  }
  const faults = await listFaults(
    b.db,
    done.flatMap((row) => (row.id === null ? [] : [row.id])),
  );
  return done.map((row) => ({ ...row, notes: [...new Set([...row.notes, ...(faults.get(row.id ?? '') ?? [])])] }));
}

interface OwnTest {
  readonly setting?: Omit<QuizChange, 'version'>;
  readonly floors?: readonly (readonly (number | null)[])[];
}

const MOST_POINTS = 1_000_000;

async function bringTest(
  b: Bringing,
  resource: QtiResource,
  unitId: string | null,
  notes: string[],
): Promise<Omit<QtiQuizDone, 'problem' | 'notes'>> {
  const { path } = resource;
  const { root, own } = await readXmlFile(b, path);
  const { test, problems } = readTest(root, path);
  notes.push(...said(problems));
  await storeShown(b, path, root, []);
  const title = (test.title || resource.title || 'A quiz').slice(0, 200);
  const held = own === null ? null : (fromOwnForm(own, ownFile(b)) as OwnTest | null);
  const known = new Set<string>();
  const sections: BroughtQuiz['sections'] = test.sections.map((s, n) => ({
    ...{ title: s.title.slice(0, 200), instructions: s.instructions.slice(0, 2000), isShuffled: s.isShuffled },
    parts: s.parts.flatMap((part, k): BroughtQuiz['sections'][number]['parts'][number][] => {
      const made = part.items.flatMap((item) => {
        const found = b.made.get(b.find(path, `/${item}`) ?? item);
        if (found === undefined) notes.push(`assessmentItemRef: “${item}” did not come in, so it is not in the quiz.`);
        return (found ?? []).filter((m) => !known.has(m.id));
      });
      for (const m of made) known.add(m.id);
      const worth = (m: MadeQuestion): number => Math.min(MOST_POINTS, Math.max(0, Math.round(part.weight * m.points)));
      const floorOf = (m: MadeQuestion): number | null => {
        const kept = held?.floors?.[n]?.[k];
        return kept === undefined ? (m.takesAway ? null : 0) : kept;
      };
      const [first] = made;
      if (first === undefined) return [];
      if (part.count !== null)
        return [
          { questionIds: made.map((m) => m.id), count: Math.min(part.count, made.length), points: worth(first), floor: floorOf(first) },
        ];
      return made.map((m) => ({ questionIds: [m.id], count: null, points: worth(m), floor: floorOf(m) }));
    }),
  }));
  const many = sections.flatMap((s) => s.parts).reduce((sum, p) => sum + (p.count ?? 1), 0);
  if (unitId === null) return { itemId: null, title, questions: many };
  const setting: Omit<QuizChange, 'version'> = {
    instructions: readTestWords(test.instructions, sourcesAt(b, path)),
    ...{ limitMinutes: test.limitMinutes, mayGoBack: test.mayGoBack },
  };
  const checked = held?.setting === undefined ? null : quizChange.validate({ ...held.setting, version: 1 }, validationOptions);
  const { version: _, ...own2 } = (checked?.error === undefined ? checked?.value : undefined) ?? { version: 1, ...setting };
  const itemId = await addItem(b.db, b.courseId, { unitId, kind: 'quiz', title, position: 0 });
  await bringQuiz(b.db, b.actor, b.courseId, itemId, { title, setting: own2, sections }, b.now);
  return { itemId, title, questions: many };
}

/** The manifest, or, where there is none, every XML file that begins as an item, a test or a shared text does. */
async function readManifest(zip: Zip): Promise<QtiManifest> {
  if (zip.sizes.has(MANIFEST)) {
    const read = readQtiManifest(decodeText(await zip.readBytes(MANIFEST, MOST_MANIFEST), 'xml').text);
    if (!read.ok) throw invalid('file', read.reason);
    return read.manifest;
  }
  const resources: QtiResource[] = [];
  for (const path of [...zip.sizes.keys()].filter((name) => name.toLowerCase().endsWith('.xml')).slice(0, MOST_ITEMS)) {
    const head = (await zip.readBytes(path, MOST_XML)).subarray(0, 4000).toString('utf8');
    const what = /<(?:[\w]+:)?(?:qti-)?assessment-?(item|test|stimulus)[\s>]/i.exec(head)?.[1]?.toLowerCase() as
      QtiResource['what'] | undefined;
    if (what === undefined) continue;
    resources.push({ id: path, what, path, files: [], title: '', tags: [], objectives: [], level: null, needs: [], own: null });
  }
  if (resources.length === 0) {
    const near = [...zip.sizes.keys()].find((name) => name.endsWith(`/${MANIFEST}`));
    const mend = near === undefined ? `At its root stand: ${[...zip.sizes.keys()].slice(0, 4).join(', ') || 'nothing'}.` : `There is one at ${near}: pack that folder’s contents themselves, without the folder around them.`; // prettier-ignore
    throw invalid('file', `This zip holds no ${MANIFEST} at its root and no items of QTI. ${mend}`);
  }
  return { resources, problems: [`There is no ${MANIFEST}; every file that is an item was read.`] };
}

/**
 * Brings a package of QTI 2.1, 2.2 or 3.0 into the bank, item by item: one that is not understood is named with its element and left out,
 * and hinders no other. With `isPreview` everything is done and taken back, so that what is said before is what happens after.
 */
export async function bringQti(db: Db, actor: Actor, courseId: string, zip: Zip, wish: QtiWish, now: number): Promise<QtiDone> {
  const { resources, problems } = await readManifest(zip);
  const items = resources.filter((r) => r.what === 'item');
  if (items.length > MOST_ITEMS)
    throw invalid('file', `This package has ${items.length} items; ${MOST_ITEMS} are taken in at a time. Split it in two.`);
  const disk = await makeFolder();
  try {
    await run(db, 'savepoint package');
    const b: Bringing = {
      ...{ db, actor, courseId, folderId: wish.folderId, now, zip, disk },
      find: entryFinder([...zip.sizes.keys()]),
      files: new Map(),
      resources: new Map(resources.map((r) => [r.path, r])),
      stimuli: new Map(),
      made: new Map(),
    };
    const questions = await bringItems(b, items);
    const quizzes: QtiQuizDone[] = [];
    for (const resource of resources.filter((r) => r.what === 'test')) {
      const notes: string[] = [];
      const result = await piece(db, () => bringTest(b, resource, wish.unitId, notes));
      const failed = { itemId: null, title: resource.title || resource.path, questions: 0 };
      quizzes.push(
        result.ok
          ? { ...result.value, problem: '', notes: [...new Set(notes)] }
          : { ...failed, problem: reasonOf(result.error, result.reason), notes: [] },
      );
    }
    await run(db, wish.isPreview ? 'rollback to savepoint package' : 'release savepoint package');
    return { questions, quizzes, files: b.files.size, problems };
  } finally {
    await rm(disk, { recursive: true, force: true });
  }
}
