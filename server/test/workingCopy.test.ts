import type { CourseFile, EditedText, ItemDetail, Plan, TextPublished, TextSaved } from '@rosemary/api';
import { paragraphs } from '@rosemary/api';
import { type DocumentNode, type ItemKind, kindOfItem, KINDS_OF_ITEM, plainText } from '@rosemary/core';
import { servedKind } from '../src/kinds/index.ts';
import { makeSchool, type TestSchool } from './school.ts';
import { bytesOf } from './zips.ts';

/** What is written into an item that students read waits until it is published. */
let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('working');
}, 60_000);
afterAll(() => school.close());
const teacher = () => school.agents.instructor;
const base = (): string => `/api/courses/${school.courseId}`;
const KINDS = (Object.keys(KINDS_OF_ITEM) as ItemKind[]).filter((kind) => servedKind(kind).text !== null);
type Kind = (typeof KINDS)[number];

/** How the text of each kind is saved, and the field in which it is sent. */
const SAVED: { readonly [kind in string]: readonly [path: (id: string) => string, field: string] } = {
  page: [(id) => `${base()}/items/${id}/page`, 'document'],
  assignment: [(id) => `${base()}/items/${id}/instructions`, 'instructions'],
  discussion: [(id) => `${base()}/discussions/${id}`, 'document'],
};
const detail = async (id: string): Promise<ItemDetail> => (await teacher().get(`${base()}/items/${id}`).expect(200)).body as ItemDetail;
const edited = async (id: string): Promise<EditedText> => (await detail(id)).text!;
const listItems = async () => ((await teacher().get(`${base()}/plan`).expect(200)).body as Plan).units.flatMap((u) => u.items);
const planned = async (id: string) => (await listItems()).find((i) => i.id === id)!;
const setDraft = async (id: string, isDraft: boolean): Promise<void> => {
  const { version } = await planned(id);
  await teacher().patch(`${base()}/items/${id}`).send({ version, isDraft }).expect(200);
};
const ask = (kind: Kind, id: string, document: DocumentNode, version: number) => {
  const [path, field] = SAVED[kind]!;
  return teacher()
    .put(path(id))
    .send({ [field]: document, version });
};
const save = async (kind: Kind, id: string, words: string, version: number): Promise<TextSaved> =>
  (await ask(kind, id, paragraphs(words), version).expect(200)).body as TextSaved;
const act = async <T = TextSaved>(id: string, what: string, version: number): Promise<T> =>
  (await teacher().post(`${base()}/items/${id}/${what}`).send({ version }).expect(200)).body as T;
async function duplicate(id: string): Promise<string> {
  const before = new Set((await listItems()).map((i) => i.id));
  await teacher()
    .post(`${base()}/items/duplicates`)
    .send({ itemIds: [id] })
    .expect(200);
  return (await listItems()).find((i) => !before.has(i.id))!.id;
}
/** What a student reads. */
async function read(kind: Kind, id: string): Promise<string> {
  const seen = (
    await school.agents.student.get(kind === 'discussion' ? `${base()}/discussions/${id}` : `${base()}/own/items/${id}`).expect(200)
  ).body as { document?: DocumentNode; page?: DocumentNode; instructions?: DocumentNode; assignment?: { instructions: DocumentNode } };
  return plainText(seen.document ?? seen.page ?? seen.assignment?.instructions ?? seen.instructions ?? null).trim();
}
async function make(kind: Kind, words: string): Promise<{ id: string; version: number }> {
  const { id } = (
    await teacher()
      .post(`${base()}/items`)
      .send({ unitId: school.unitId, kind, title: `A ${kind}`, position: 0 })
      .expect(200)
  ).body as { id: string };
  const saved = await save(kind, id, words, 1);
  expect(saved.isWorking).toBe(false);
  await setDraft(id, false);
  return { id, version: saved.version };
}

it('is kept of every kind that has a text of its own, and how each is saved is known here', () => {
  expect([...KINDS].sort()).toEqual(Object.keys(SAVED).sort());
  for (const kind of KINDS) expect(kindOfItem(kind).hasText).toBe(true);
});

describe.each(KINDS)('an open %s', (kind) => {
  it('is read as it was until its changes are published, and again when that is taken back', async () => {
    const { id, version } = await make(kind, 'As it was.');
    expect(await edited(id)).toMatchObject({ isRead: true, working: null });
    const first = await save(kind, id, 'Half a sent', version);
    expect(first).toEqual({ version: version + 1, isWorking: true });
    expect(await read(kind, id)).toBe('As it was.');
    expect((await planned(id)).hasChanges).toBe(true);
    const now = await edited(id);
    expect([plainText(now.document).trim(), plainText(now.working!.published).trim(), now.working!.begunBy]).toEqual([
      'Half a sent',
      'As it was.',
      'Instructor Tester',
    ]);
    const second = await save(kind, id, 'A whole sentence.', first.version);
    const published = await act<TextPublished>(id, 'publish', second.version);
    expect(await read(kind, id)).toBe('A whole sentence.');
    expect((await edited(id)).working).toBeNull();
    expect((await planned(id)).hasChanges).toBe(false);
    const back = await teacher()
      .put(`${base()}/items/${id}/published`)
      .send({ document: published.before, version: published.version })
      .expect(200);
    expect(back.body).toEqual({ version: published.version + 1, isWorking: true });
    expect(await read(kind, id)).toBe('As it was.');
    expect(plainText((await edited(id)).document).trim()).toBe('A whole sentence.');
  });

  it('has its changes dropped, and nothing is left to publish', async () => {
    const { id, version } = await make(kind, 'As it was.');
    const saved = await save(kind, id, 'Not this.', version);
    const dropped = await act(id, 'drop-changes', saved.version);
    expect(dropped.version).toBe(saved.version + 1);
    expect(await edited(id)).toMatchObject({ isRead: true, working: null });
    expect(plainText((await edited(id)).document).trim()).toBe('As it was.');
    for (const what of ['publish', 'drop-changes'])
      await teacher().post(`${base()}/items/${id}/${what}`).send({ version: dropped.version }).expect(409);
  });

  it('refuses whoever has not seen the last of it, and shows what stands there', async () => {
    const { id, version } = await make(kind, 'As it was.');
    const saved = await save(kind, id, 'By a colleague.', version);
    const late = (await ask(kind, id, paragraphs('Mine.'), version).expect(409)).body as {
      current: { version: number; document?: DocumentNode; instructions?: DocumentNode };
    };
    expect(late.current.version).toBe(saved.version);
    expect(plainText(late.current.document ?? late.current.instructions ?? null).trim()).toBe('By a colleague.');
    for (const what of ['publish', 'drop-changes']) await teacher().post(`${base()}/items/${id}/${what}`).send({ version }).expect(409);
    expect(await read(kind, id)).toBe('As it was.');
  });

  it('that is made a draft again takes what is written next as its text', async () => {
    const { id, version } = await make(kind, 'As it was.');
    const working = await save(kind, id, 'In between.', version);
    await setDraft(id, true);
    expect(await edited(id)).toMatchObject({ isRead: false, working: { begunBy: 'Instructor Tester' } });
    expect((await save(kind, id, 'As it will be.', working.version)).isWorking).toBe(false);
    expect((await edited(id)).working).toBeNull();
    await setDraft(id, false);
    expect(await read(kind, id)).toBe('As it will be.');
  });

  it('is copied with what is not published, as the text of a draft', async () => {
    const { id, version } = await make(kind, 'As it was.');
    await save(kind, id, 'The latest.', version);
    const copy = await duplicate(id);
    expect(plainText((await edited(copy)).document).trim()).toBe('The latest.');
    expect((await edited(copy)).working).toBeNull();
  });

  it('is published by its instructor alone', async () => {
    const { id, version } = await make(kind, 'As it was.');
    const saved = await save(kind, id, 'Not yours.', version);
    for (const who of ['assistant', 'student'] as const)
      for (const what of ['publish', 'drop-changes'])
        await school.agents[who].post(`${base()}/items/${id}/${what}`).send({ version: saved.version }).expect(403);
    await school.agents.outsider.post(`${base()}/items/${id}/publish`).send({ version: saved.version }).expect(404);
    expect(await read(kind, id)).toBe('As it was.');
  });
});

describe('a file in what is not published', () => {
  const put = async (name: string): Promise<CourseFile> =>
    (await teacher().post(`${base()}/files`).attach('file', Buffer.from(name), name).expect(200)).body as CourseFile;
  const showing = (file: CourseFile): DocumentNode => ({
    type: 'doc',
    content: [
      { type: 'fileShown', attrs: { fileId: file.id, src: file.url, name: file.name, mediaType: file.mediaType } },
      { type: 'paragraph' },
    ],
  });
  /** An open page that shows one file, and another one in what is not published. */
  async function openWith(old: CourseFile, next: CourseFile): Promise<{ id: string; saved: TextSaved }> {
    const { id, version } = await make('page', 'As it was.');
    await setDraft(id, true);
    const first = (await ask('page', id, showing(old), version).expect(200)).body as TextSaved;
    await setDraft(id, false);
    return { id, saved: (await ask('page', id, showing(next), first.version).expect(200)).body as TextSaved };
  }
  const reach = async (file: CourseFile): Promise<number> => (await school.agents.student.get(`${base()}/files/${file.id}`)).status;

  it('is reached by students once it is published, and what it took the place of no longer', async () => {
    const [old, next] = [await put('old.txt'), await put('next.txt')];
    const { id, saved } = await openWith(old, next);
    expect(saved.isWorking).toBe(true);
    expect([await reach(old), await reach(next)]).toEqual([200, 404]);
    await act(id, 'publish', saved.version);
    expect([await reach(old), await reach(next)]).toEqual([404, 200]);
  });

  it('is reached in a copy that is opened without another word', async () => {
    const [old, next] = [await put('older.txt'), await put('newer.txt')];
    const { id } = await openWith(old, next);
    const copy = await duplicate(id);
    await setDraft(id, true);
    await setDraft(copy, false);
    expect([await reach(old), await reach(next)]).toEqual([404, 200]);
  });
});

it('nobody reads a course that is closed, so that nothing waits', async () => {
  const { id, version } = await make('page', 'As it was.');
  await school.pool.query('update course set is_open = false where id = $1', [school.courseId]);
  try {
    expect((await save('page', id, 'At once.', version)).isWorking).toBe(false);
  } finally {
    await school.pool.query('update course set is_open = true where id = $1', [school.courseId]);
  }
  expect(await read('page', id)).toBe('At once.');
});

it('an archive holds what is not published beside what is, and so does the course it becomes', async () => {
  const { id, version } = await make('page', 'Read by all.');
  await save('page', id, 'Read by none yet.', version);
  const bytes = await bytesOf(teacher().get(`${base()}/archive`).expect(200));
  const { terms } = (await teacher().get('/api/course-start').expect(200)).body as { terms: { id: string }[] };
  const wish = {
    code: 'HOR-9',
    run: 'z',
    title: 'Again',
    termId: terms[0]!.id,
    timeZone: 'Europe/Lisbon',
    sections: ['A'],
    outline: 'empty',
  };
  const { id: courseId } = (await teacher().post('/api/courses').send(wish).expect(200)).body as { id: string };
  await teacher().post(`/api/courses/${courseId}/archive`).attach('file', bytes, 'course.zip').expect(200);
  const plan = (await teacher().get(`/api/courses/${courseId}/plan`).expect(200)).body as Plan;
  const came = plan.units.flatMap((u) => u.items).filter((i) => i.hasChanges);
  const texts = await Promise.all(
    came.map(async (i) => ((await teacher().get(`/api/courses/${courseId}/items/${i.id}`).expect(200)).body as ItemDetail).text!),
  );
  expect(texts.map((t) => [plainText(t.working!.published).trim(), plainText(t.document).trim()])).toContainEqual([
    'Read by all.',
    'Read by none yet.',
  ]);
});
