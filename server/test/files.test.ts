import type { CourseFile, FileStore, ItemDetail, PageVersion } from '@rosemary/api';
import { paragraphs } from '@rosemary/api';
import { once } from 'node:events';
import { Agent, createServer, get, type IncomingMessage } from 'node:http';
import type { AddressInfo } from 'node:net';
import supertest from 'supertest';
import { makeSchool, PASSWORD, START, type TestSchool } from './school.ts';

let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('files');
}, 60_000);
afterAll(() => school.close());
const base = (): string => `/api/courses/${school.courseId}`;
const DAY = 86_400_000;
const iso = (at: number): string => new Date(at).toISOString();
const teacher = () => school.agents.instructor;
const store = async (): Promise<FileStore> => (await teacher().get(`${base()}/file-store`).expect(200)).body as FileStore;
const put = async (name: string, text: string, folder?: string): Promise<CourseFile> =>
  (
    await teacher()
      .post(`${base()}/files${folder === undefined ? '' : `?folder=${folder}`}`)
      .attach('file', Buffer.from(text), name)
      .expect(200)
  ).body as CourseFile;
const fileOf = async (id: string) => (await store()).files.find((f) => f.id === id)!;
const folder = async (title: string, parentId: string | null = null): Promise<string> =>
  (await teacher().post(`${base()}/folders`).send({ title, parentId }).expect(200)).body.id as string;
const add = async (kind: string, title: string): Promise<string> => {
  const { id, plan } = (await teacher().post(`${base()}/items`).send({ unitId: school.unitId, kind, title, position: 0 }).expect(200)).body;
  const { version } = plan.units[0].items.find((i: { id: string }) => i.id === id);
  await teacher().patch(`${base()}/items/${id}`).send({ isDraft: false, version }).expect(200);
  return id as string;
};
const show = async (fileId: string | null, version = 1, itemId?: string) => {
  const id = itemId ?? (await add('file', 'Shown'));
  await teacher().put(`${base()}/items/${id}/file`).send({ fileId, version }).expect(200);
  return id;
};
const reach = async (who: 'student' | 'second' | 'assistant' | 'outsider', id: string): Promise<number> =>
  (await school.agents[who].get(`${base()}/files/${id}`)).status;

describe('the store of a course', () => {
  it('keeps files in folders, says what shows each, and finds those shown nowhere', async () => {
    const papers = await folder('Papers');
    const file = await put('chart.txt', 'oil chart', papers);
    expect((await store()).folders).toMatchObject([{ id: papers, title: 'Papers', parentId: null }]);
    expect(await fileOf(file.id)).toMatchObject({ name: 'chart.txt', folderId: papers, size: 9, uses: [], addedBy: 'Instructor Tester' });
    const itemId = await show(file.id);
    expect((await fileOf(file.id)).uses).toEqual([{ itemId, title: 'Shown' }]);
  });

  it('does not hold what students hand in', async () => {
    await teacher()
      .put(`${base()}/items/${school.itemId}/assignment`)
      .send({
        version: (await teacher().get(`${base()}/items/${school.itemId}`)).body.assignment.version,
        acceptsFiles: true,
        fileTypes: ['text'],
      })
      .expect(200);
    await school.agents.student
      .post(`${base()}/own/items/${school.itemId}/files`)
      .attach('file', Buffer.from('mine'), 'mine.txt')
      .expect(200);
    expect(JSON.stringify(await store())).not.toContain('mine.txt');
  });

  it('refuses what is no file it knows, an unknown folder, and nothing at all', async () => {
    const send = (name: string, bytes: Buffer, query = '') => teacher().post(`${base()}/files${query}`).attach('file', bytes, name);
    expect((await send('a.exe', Buffer.from('MZ\u0000\u0001'))).body.type).toBe('urn:rosemary:wrong-type');
    expect((await send('a.txt', Buffer.from('x'), '?folder=00000000-0000-4000-8000-000000000000')).body.detail).toContain('no longer here');
    expect((await send('a.txt', Buffer.from(''))).body.detail).toContain('empty');
    expect((await put('words.vtt', 'WEBVTT\n\n00:00.000 --> 00:01.000\nTick')).mediaType).toBe('text/vtt');
  });

  it('knows a recorded voice from a film, though both come in the same container', async () => {
    const webm = (...codecs: string[]): Buffer =>
      Buffer.concat([
        Buffer.from('1a45dfa39f4282847765626d', 'hex'),
        Buffer.from(`18538067 ${codecs.join(' ')} `.padEnd(80)),
        Buffer.alloc(40, 1),
      ]);
    const kindOf = async (bytes: Buffer, name: string): Promise<string> =>
      ((await teacher().post(`${base()}/files`).attach('file', bytes, name).expect(200)).body as CourseFile).mediaType;
    expect(await kindOf(webm('A_OPUS'), 'voice.weba')).toBe('audio/webm');
    expect(await kindOf(webm('V_VP9', 'A_OPUS'), 'film.webm')).toBe('video/webm');
    const ogg = Buffer.concat([Buffer.from('OggS'), Buffer.alloc(24), Buffer.from('OpusHead'), Buffer.alloc(60)]);
    expect(await kindOf(ogg, 'voice.ogg')).toBe('audio/ogg');
    const mp4 = (track: string): Buffer =>
      Buffer.concat([
        Buffer.from('00000018667479706d703432000000006d70343269736f6d', 'hex'),
        Buffer.from(`    hdlr${'\u0000'.repeat(8)}${track}`),
        Buffer.alloc(40),
      ]);
    expect(await kindOf(mp4('soun'), 'voice.mp4')).toBe('audio/mp4');
    expect(await kindOf(mp4('vide'), 'film.mp4')).toBe('video/mp4');
  });

  it('puts no folder into itself, and takes none away that still holds something', async () => {
    const [outer, other] = [await folder('Outer'), await folder('Other')];
    const inner = await folder('Inner', outer);
    const change = (id: string, body: object) =>
      teacher()
        .patch(`${base()}/folders/${id}`)
        .send({ version: 1, ...body });
    expect((await change(outer, { parentId: inner }).expect(422)).body.pointers[0].field).toBe('parentId');
    await change(outer, { parentId: other }).expect(200);
    await change(outer, { parentId: null }).expect(409);
    expect((await teacher().delete(`${base()}/folders/${outer}`).expect(409)).body.detail).toContain('still holds one thing');
    await teacher().delete(`${base()}/folders/${inner}`).expect(200);
    await teacher().delete(`${base()}/folders/${outer}`).expect(200);
    await teacher().post(`${base()}/folders/${outer}/restore`).expect(200);
  });

  it('renames and moves, refuses a conflict, and takes out only what nothing shows', async () => {
    const file = await put('old.txt', 'words of before');
    const to = await folder('Moved');
    await teacher().patch(`${base()}/files/${file.id}`).send({ version: 1, name: 'new.txt', folderId: to }).expect(200);
    expect(await fileOf(file.id)).toMatchObject({ name: 'new.txt', folderId: to });
    await teacher().patch(`${base()}/files/${file.id}`).send({ version: 1, name: 'x' }).expect(409);
    const itemId = await show(file.id);
    const refused = await teacher()
      .post(`${base()}/files/removals`)
      .send({ fileIds: [file.id] })
      .expect(409);
    expect(refused.body.detail).toContain('“new.txt” is shown in “Shown”');
    await show(null, 2, itemId);
    await teacher()
      .post(`${base()}/files/removals`)
      .send({ fileIds: [file.id] })
      .expect(200);
    expect(await fileOf(file.id)).toBeUndefined();
    await teacher()
      .post(`${base()}/files/restorals`)
      .send({ fileIds: [file.id] })
      .expect(200);
    expect((await fileOf(file.id)).name).toBe('new.txt');
  });
});

describe('what a student reaches', () => {
  it('is a file only through something they may see, asked for directly', async () => {
    const file = await put('secret.txt', 'for whom it is');
    expect([await reach('student', file.id), await reach('assistant', file.id), await reach('outsider', file.id)]).toEqual([404, 200, 404]);
    const itemId = await show(file.id);
    expect([await reach('student', file.id), await reach('second', file.id)]).toEqual([200, 200]);
    const { version } = (await teacher().get(`${base()}/items/${itemId}`)).body.item;
    await teacher()
      .patch(`${base()}/items/${itemId}`)
      .send({ version, audience: [{ sectionId: school.sections[0], enrolmentId: null }] })
      .expect(200);
    expect([await reach('student', file.id), await reach('second', file.id)]).toEqual([200, 404]);
    await teacher()
      .patch(`${base()}/items/${itemId}`)
      .send({ version: version + 1, opensAt: iso(START + DAY) })
      .expect(200);
    expect(await reach('student', file.id)).toBe(404);
  });

  it('keeps to the dates of the file, and of every folder above it', async () => {
    const outer = await folder('Dated');
    const file = await put('dated.txt', 'in its time', await folder('Within', outer));
    await show(file.id);
    expect(await reach('student', file.id)).toBe(200);
    await teacher()
      .patch(`${base()}/folders/${outer}`)
      .send({ version: 1, opensAt: iso(START + DAY) })
      .expect(200);
    expect(await reach('student', file.id)).toBe(404);
    await teacher().patch(`${base()}/folders/${outer}`).send({ version: 2, opensAt: null }).expect(200);
    await teacher()
      .patch(`${base()}/files/${file.id}`)
      .send({ version: 1, closesAt: iso(START - DAY) })
      .expect(200);
    expect([await reach('student', file.id), await reach('assistant', file.id)]).toEqual([404, 200]);
    const wrong = await teacher()
      .patch(`${base()}/files/${file.id}`)
      .send({ version: 2, opensAt: iso(START) })
      .expect(422);
    expect(wrong.body.pointers[0].field).toBe('closesAt');
  });
});

describe('a file replaced where it stands', () => {
  it('shows the new content at the same address at once, and what it held can be brought back', async () => {
    const file = await put('plan.txt', 'first words');
    await show(file.id);
    const first = await school.agents.student.get(file.url).expect(200);
    expect(first.text).toBe('first words');
    await school.agents.student.get(file.url).set('if-none-match', String(first.headers.etag)).expect(304);
    await teacher().post(`${base()}/files/${file.id}/content`).attach('file', Buffer.from('second words'), 'plan 2.txt').expect(200);
    const second = await school.agents.student.get(file.url).set('if-none-match', String(first.headers.etag)).expect(200);
    expect(second.text).toBe('second words');
    const { past } = await fileOf(file.id);
    expect(past).toMatchObject([{ name: 'plan.txt', by: 'Instructor Tester' }]);
    await teacher().post(`${base()}/files/${file.id}/past`).send({ pastId: past[0]!.id }).expect(200);
    expect((await school.agents.student.get(file.url)).text).toBe('first words');
    await teacher().post(`${base()}/files/${file.id}/past`).send({ pastId: '999999' }).expect(404);
  });
});

describe('items that are a file or a link', () => {
  it('a link takes a whole address only, and reaches the student with its word', async () => {
    const id = await add('link', 'Museum');
    const bad = await teacher().put(`${base()}/items/${id}/link`).send({ version: 1, address: 'museum' }).expect(422);
    expect(bad.body.pointers[0]).toMatchObject({ field: 'address', text: expect.stringContaining('“museum”') });
    await teacher().put(`${base()}/items/${id}/link`).send({ version: 1, address: 'javascript:alert(1)' }).expect(422);
    await teacher()
      .put(`${base()}/items/${id}/link`)
      .send({ version: 1, address: 'https://museum.example/clocks', note: 'Room 4' })
      .expect(200);
    await teacher().put(`${base()}/items/${id}/link`).send({ version: 1, note: 'x' }).expect(409);
    expect((await school.agents.student.get(`${base()}/own/items/${id}`)).body.link).toEqual({
      address: 'https://museum.example/clocks',
      note: 'Room 4',
    });
  });
  it('a file item takes only files of its course, and a copy keeps it', async () => {
    const id = await add('file', 'Chart');
    const foreign = (
      await school.agents.outsider
        .post(`/api/courses/${school.otherCourseId}/files`)
        .attach('file', Buffer.from('theirs'), 'theirs.txt')
        .expect(200)
    ).body as CourseFile;
    await teacher().put(`${base()}/items/${id}/file`).send({ version: 1, fileId: foreign.id }).expect(422);
    const file = await put('chart2.txt', 'a chart');
    await show(file.id, 1, id);
    const { made } = (
      await teacher()
        .post(`${base()}/items/duplicates`)
        .send({ itemIds: [id] })
        .expect(200)
    ).body;
    const copy = (await teacher().get(`${base()}/items/${made[0]}`).expect(200)).body as ItemDetail;
    expect(copy.file?.file?.id).toBe(file.id);
  });
});

describe('versions of a page', () => {
  const save = (id: string, version: number, words: string) =>
    teacher()
      .put(`${base()}/items/${id}/page`)
      .send({ version, document: paragraphs(words) })
      .expect(200);
  const versions = async (id: string): Promise<PageVersion[]> =>
    ((await teacher().get(`${base()}/items/${id}/versions`).expect(200)).body as { versions: PageVersion[] }).versions;

  it('are one a sitting; each can be read again, and no student reads any', async () => {
    const id = await add('page', 'Written over days');
    await save(id, 1, 'One');
    await save(id, 2, 'One two');
    school.clock.at = START + 3_600_000;
    await save(id, 3, 'One two three');
    school.clock.at = START;
    expect((await versions(id)).map((v) => [v.number, v.words, v.savedBy])).toEqual([
      [2, 3, 'Instructor Tester'],
      [1, 2, 'Instructor Tester'],
    ]);
    expect((await teacher().get(`${base()}/items/${id}/version?number=1`).expect(200)).body.document).toEqual(paragraphs('One two'));
    await teacher().get(`${base()}/items/${id}/version?number=9`).expect(404);
    await school.agents.student.get(`${base()}/items/${id}/versions`).expect(403);
  });

  it('keeps what stood there before the first change', async () => {
    const id = await add('page', 'Brought in');
    await school.pool.query('update page set document = $2 where item_id = $1', [id, paragraphs('From last term')]);
    await save(id, 1, 'Of this term');
    expect((await versions(id)).map((v) => v.words)).toEqual([3, 3]);
    expect((await teacher().get(`${base()}/items/${id}/version?number=1`)).body.document).toEqual(paragraphs('From last term'));
  });
});

describe('a version that is restored', () => {
  it('leaves what stood before as a version of its own, however lately it was written', async () => {
    const id = await add('page', 'Restored');
    const save = async (words: string, version: number, more: object = {}) =>
      (
        await teacher()
          .put(`${base()}/items/${id}/page`)
          .send({ version, document: paragraphs(words), ...more })
          .expect(200)
      ).body.version as number;
    const first = await save('As it was', 1);
    const second = await save('As it is now', first);
    await save('As it was', second, { isReplacing: true });
    const { versions: kept } = (await teacher().get(`${base()}/items/${id}/versions`).expect(200)).body;
    const texts = [];
    for (const { number } of kept as { number: number }[])
      texts.push((await teacher().get(`${base()}/items/${id}/version?number=${number}`).expect(200)).body.document);
    expect(texts).toEqual([paragraphs('As it was'), paragraphs('As it is now')]);
  });
});

describe('templates and embeds', () => {
  it('are one’s own, deleted and brought back', async () => {
    const document = paragraphs('Goals');
    const { id } = (await teacher().post('/api/templates').send({ title: 'Bench day', document }).expect(200)).body;
    const own = async (who: 'instructor' | 'outsider') => (await school.agents[who].get('/api/templates').expect(200)).body.templates;
    expect(await own('instructor')).toEqual([{ id, title: 'Bench day', document: paragraphs('Goals') }]);
    expect(await own('outsider')).toEqual([]);
    await school.agents.outsider.delete(`/api/templates/${id}`).expect(404);
    await teacher().delete(`/api/templates/${id}`).expect(200);
    expect(await own('instructor')).toEqual([]);
    await teacher().post(`/api/templates/${id}/restore`).expect(200);
    expect(await own('instructor')).toHaveLength(1);
  });

  it('bring their files among those of the course in which they are used, each once', async () => {
    const file = await put('in-template.txt', 'words');
    const shown = { type: 'fileShown', attrs: { fileId: file.id, src: file.url, name: file.name, mediaType: file.mediaType } };
    const document = { type: 'doc', content: [...(paragraphs('Goals').content ?? []), shown] };
    const { id } = (await teacher().post('/api/templates').send({ title: 'With a file', document }).expect(200)).body;
    const here = (await teacher().post(`${base()}/templates/${id}/uses`).expect(200)).body.document;
    expect(here.content[1].attrs).toMatchObject({ fileId: file.id, name: 'in-template.txt' });
    const { rows } = await school.pool.query('select person_id from enrolment where course_id = $1 and role = $2', [
      school.courseId,
      'instructor',
    ]);
    await school.pool.query("insert into enrolment (course_id, person_id, role) values ($1, $2, 'instructor')", [
      school.otherCourseId,
      rows[0].person_id,
    ]);
    const there = (await teacher().post(`/api/courses/${school.otherCourseId}/templates/${id}/uses`).expect(200)).body.document;
    const { fileId, src } = there.content[1].attrs;
    expect(fileId).not.toBe(file.id);
    expect(src).toBe(`/api/courses/${school.otherCourseId}/files/${fileId}`);
    expect((await teacher().get(src).expect(200)).text ?? '').toBe('words');
    await school.agents.outsider.post(`/api/courses/${school.otherCourseId}/templates/${id}/uses`).expect(404);
  });

  it('leave out files of courses that whoever saves them does not teach', async () => {
    const file = await put('not-yours.txt', 'words');
    const shown = { type: 'fileShown', attrs: { fileId: file.id, src: file.url, name: file.name, mediaType: file.mediaType } };
    const document = { type: 'doc', content: [...(paragraphs('Goals').content ?? []), shown] };
    await school.agents.student.post('/api/templates').send({ title: 'Taken', document }).expect(200);
    const { templates } = (await school.agents.student.get('/api/templates').expect(200)).body;
    expect(templates[0].document).toEqual(paragraphs('Goals'));
  });

  it('a page of another site is shown only when the school lists it', async () => {
    const id = await add('page', 'With a map');
    const document = { type: 'doc', content: [{ type: 'embed', attrs: { src: 'https://maps.example.org/x', title: 'Map' } }] };
    const save = (version: number) => teacher().put(`${base()}/items/${id}/page`).send({ version, document });
    expect((await save(1).expect(422)).body.detail).toContain('maps.example.org');
    const bad = await school.agents.administrator
      .put('/api/school/embed-hosts')
      .send({ hosts: ['https://example.org/x'] })
      .expect(422);
    expect(bad.body.detail).toContain('host name alone');
    await school.agents.administrator
      .put('/api/school/embed-hosts')
      .send({ hosts: ['example.org'] })
      .expect(200);
    await save(1).expect(200);
    expect((await teacher().get('/api/embed-hosts').expect(200)).body).toEqual({ hosts: ['example.org'] });
  });
});

describe('those who read slowly', () => {
  it('hold no connection of the others, however many they are, and those who go away leave none behind', async () => {
    const big = await teacher()
      .post(`${base()}/files`)
      .attach('file', Buffer.alloc(24 * 1_048_576, 'slow '), 'film.txt')
      .expect(200);
    const server = createServer(school.app).listen(0, '127.0.0.1');
    await once(server, 'listening');
    const { port } = server.address() as AddressInfo;
    const agent = new Agent({ maxSockets: 40 });
    const signIn = await supertest(school.app).post('/api/sign-in').send({ email: 'instructor@example.org', password: PASSWORD });
    const cookie = String(signIn.headers['set-cookie']).split(';')[0] ?? '';
    const begin = async (): Promise<IncomingMessage> => {
      const request = get({ port, path: `${base()}/files/${String(big.body.id)}`, agent, headers: { cookie } });
      const [response] = (await once(request, 'response')) as [IncomingMessage];
      expect(response.statusCode).toBe(200);
      // Nothing of it is read, as by a player that stands still.
      return response.pause();
    };
    // More of them than there are connections.
    const readers = await Promise.all(Array.from({ length: 24 }, begin));
    await teacher().get(`${base()}/plan`).expect(200);
    for (const reader of readers) reader.destroy();
    await teacher().get(`${base()}/plan`).expect(200);
    agent.destroy();
    server.close();
    await once(server, 'close');
    expect(school.pool.idleCount).toBe(school.pool.totalCount);
  }, 60_000);
});
