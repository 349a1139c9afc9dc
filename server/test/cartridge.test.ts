import type { Archive, ArchiveDone, PackagePreview, Plan } from '@rosemary/api';
import { readManifest } from '@rosemary/core';
import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import { readZip, type Zip } from '../src/files/unzip.ts';
import { makeSchool, type TestSchool } from './school.ts';
import { bytesOf, packZip } from './zips.ts';

const FILES = join(import.meta.dirname, 'files/packages');

let school: TestSchool;

let folder = '';

beforeAll(async () => {
  school = await makeSchool('cartridge');
  folder = mkdtempSync(join(tmpdir(), 'rosemary-cartridge-'));
}, 60_000);

afterAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  await school.close();
});

const teacher = () => school.agents.instructor;

function entriesOf(path: string, root = path): Record<string, Buffer> {
  return Object.assign(
    {},
    ...readdirSync(path).map((name) => {
      const at = join(path, name);
      return statSync(at).isDirectory() ? entriesOf(at, root) : { [relative(root, at)]: readFileSync(at) };
    }),
  ) as Record<string, Buffer>;
}

const whole = () => entriesOf(join(FILES, 'whole'));

let run = 0;

async function emptyCourse(): Promise<string> {
  const { terms } = (await teacher().get('/api/course-start').expect(200)).body;
  const body = {
    code: 'TOW-1',
    run: `r${(run += 1)}`,
    title: 'Again',
    termId: terms[0].id,
    timeZone: 'Europe/Lisbon',
    sections: ['All'],
    outline: 'empty',
  };
  return (await teacher().post('/api/courses').send(body).expect(200)).body.id as string;
}

const send = (courseId: string, bytes: Buffer, end = '') =>
  teacher().post(`/api/courses/${courseId}/archive${end}`).attach('file', bytes, 'course.imscc');

const planOf = async (courseId: string): Promise<Plan> => (await teacher().get(`/api/courses/${courseId}/plan`).expect(200)).body as Plan;

async function takeOut(courseId: string, kind: 'archive' | 'cartridge'): Promise<Zip> {
  const bytes = await bytesOf(teacher().get(`/api/courses/${courseId}/${kind}`).expect(200));
  const path = join(folder, `out-${(run += 1)}.zip`);
  writeFileSync(path, bytes);
  return readZip(path);
}

async function archiveOf(courseId: string): Promise<Archive> {
  const zip = await takeOut(courseId, 'archive');
  const archive = JSON.parse(await zip.readText('course.json', 10_000_000)) as Archive;
  zip.close();
  return archive;
}

describe('a package of another house', () => {
  it('is looked at first: what would come, what is wrong, and nothing is taken', async () => {
    const target = await emptyCourse();
    const preview = (await send(target, await packZip(whole()), '/preview').expect(200)).body as PackagePreview;
    expect(preview).toMatchObject({ kind: 'cartridge', title: 'Clocks of the tower', items: 7, files: 2, hasPolicy: false });
    expect(preview.units.map((u) => [u.title, u.items.map((i) => `${i.kind}: ${i.title}`)])).toEqual([
      ['The movement', ['page: Weights and ropes', 'link: A museum of towers', 'file: The chart']],
      ['The movement · Bells', ['discussion: Which bell first']],
      ['Work', ['assignment: Survey of a tower', 'page: Weights and ropes', 'page: Answers for staff']],
      ['Not in the outline', ['page: Glossary of ropes']],
    ]);
    const said = preview.problems.join('\n');
    for (const words of [
      '“Bells” stood inside “The movement”',
      '“media/setup.exe” is of a kind that is not kept',
      'The file “lost.pdf” is named, but is not in the zip',
      '“Weights and ropes”: a link to “nowhere.html” leads nowhere',
      'the picture “A lost picture” is not a file of the package',
      'https://films.example/bell” is a link now',
      'a script was left out',
      'its attachment “gone.txt” is not in the package',
      '“Survey of a tower”: work as a link cannot be handed in',
      '“Questions on bells”: questions are not taken in yet',
      '“An outside tool”: outside tools are not taken in',
      '“Answers for staff”: it is not written in utf-8; it was read as Western European',
    ])
      expect(said).toContain(words);
    expect((await planOf(target)).units).toEqual([]);
    expect((await archiveOf(target)).files).toEqual([]);
  });

  it('comes in as drafts, with texts, pictures, links to their new places, points and files', async () => {
    const target = await emptyCourse();
    const done = (await send(target, await packZip(whole())).expect(200)).body as ArchiveDone;
    expect([done.itemIds.length, done.files]).toEqual([7, 2]);
    const { items, files, folders, units } = await archiveOf(target);
    const item = (title: string) => items.find((i) => i.title === title);
    expect(items.every((i) => i.isDraft)).toBe(true);
    expect(units.at(2)?.itemIds).toContain(item('Weights and ropes')?.id);
    expect(item('A museum of towers')?.link?.address).toBe('https://towers.example/');
    expect(item('Answers for staff')).toMatchObject({ isStaffOnly: true });
    expect(JSON.stringify(item('Answers for staff')?.page)).toContain('schlägt');
    expect(item('Survey of a tower')).toMatchObject({
      possible: 12_500,
      counts: true,
      nextNote: 'Take the low tower if it rains.',
      assignment: { acceptsFiles: true, acceptsText: false },
    });
    const chart = files.find((f) => f.name === 'chart.txt');
    expect([item('The chart')?.file?.fileId, folders.find((f) => f.id === chart?.folderId)?.title]).toEqual([chart?.id, 'media']);
    const page = JSON.stringify(item('Weights and ropes')?.page);
    for (const part of [
      `/courses/${target}/items/${item('Glossary of ropes')?.id}`,
      `/courses/${target}/items/${item('Survey of a tower')?.id}`,
      `/api/courses/${target}/files/${chart?.id}`,
      `"fileId":"${files.find((f) => f.name === 'rope.png')?.id}"`,
      '"caption":"After a hundred years"',
    ])
      expect(page).toContain(part);
    expect(page).not.toMatch(/"heading"|alert|color: red/);
    expect(JSON.stringify(item('Which bell first')?.discussion?.document)).toMatch(/"text":"first".*Again the rope.*"fileShown"/);
  });

  it('is the instructor’s alone', async () => {
    const bytes = await packZip(whole());
    for (const who of ['assistant', 'student', 'outsider'] as const) {
      const base = `/api/courses/${school.courseId}`;
      const refused = who === 'outsider' ? 404 : 403;
      await school.agents[who].get(`${base}/cartridge`).expect(refused);
      await school.agents[who].get(`${base}/cartridge/losses`).expect(refused);
      await school.agents[who].post(`${base}/archive/preview`).attach('file', bytes, 'x.imscc').expect(refused);
    }
  });

  it.each([
    ['entities.xml', 'document type or entities'],
    ['truncated.xml', 'no well-formed XML'],
    ['latin.xml', 'says it is written in UTF-8 and is not'],
    ['other.xml', 'begins with <package>'],
    ['nothing.xml', 'names no resources'],
    ['deep.xml', 'more than 40 deep'],
  ])('with the manifest %s is refused in words, and nothing is taken', async (name, words) => {
    const target = await emptyCourse();
    const bytes = await packZip({ 'imsmanifest.xml': readFileSync(join(FILES, 'manifests', name)) });
    for (const end of ['/preview', '']) expect((await send(target, bytes, end).expect(422)).body.detail).toContain(words);
    expect((await planOf(target)).units).toEqual([]);
  });

  it('inside a folder of its own is not guessed at; where it stands is said', async () => {
    const answer = await send(school.courseId, await packZip({ 'my course/imsmanifest.xml': '<manifest/>' }), '/preview').expect(422);
    expect(answer.body.detail).toContain('There is one at my course/imsmanifest.xml');
  });

  it('one bad part keeps no other out', async () => {
    const target = await emptyCourse();
    const entries = {
      ...whole(),
      'museum.xml': '<!DOCTYPE x><x/>',
      'talk/bells.xml': '<topic>',
      'survey.xml': '<webLink/>',
      'media/rope.png': 'no picture\0',
    };
    const done = (await send(target, await packZip(entries)).expect(200)).body as ArchiveDone;
    const said = done.problems.join('\n');
    expect(said).toMatch(/“A museum of towers”: “museum\.xml” cannot be read: it declares a document type/);
    expect(said).toMatch(/“Which bell first”: “talk\/bells\.xml” cannot be read: it is no well-formed XML/);
    expect(said).toMatch(/“Survey of a tower”.*begins with <webLink> where <assignment>/);
    expect(said).toMatch(/The file “rope\.png”/);
    expect(said).toContain('“Weights and ropes” showed “A rope on its drum”, whose file did not come');
    const titles = (await archiveOf(target)).items.map((i) => i.title);
    expect(titles.sort()).toEqual(['Answers for staff', 'Glossary of ropes', 'The chart', 'Weights and ropes']);
  });
});

describe('a course as a package', () => {
  it('goes out after the published structure, and comes in again with the same texts, links and files', async () => {
    const first = await emptyCourse();
    await send(first, await packZip(whole())).expect(200);
    const zip = await takeOut(first, 'cartridge');
    const read = readManifest(await zip.readText('imsmanifest.xml', 1_000_000));
    if (!read.ok) throw new Error(read.reason);
    expect(read.cartridge.problems).toEqual([]);
    // Every file that the manifest names is there, and every entry is named.
    const named = [...read.cartridge.resources.values()].flatMap((r) => r.paths);
    expect([...named, 'imsmanifest.xml'].sort()).toEqual([...zip.sizes.keys()].sort());
    const bytes = await packZip(
      Object.fromEntries(
        await Promise.all([...zip.sizes.keys()].map(async (name) => [name, await zip.readBytes(name, 1_000_000)] as const)),
      ),
    );
    zip.close();

    const second = await emptyCourse();
    const done = (await send(second, bytes).expect(200)).body as ArchiveDone;
    // What has no way to be linked in a package loses its link, and that alone.
    expect(done.problems).toEqual([]);
    const [before, after] = [await archiveOf(first), await archiveOf(second)];
    const bare = (archive: Archive): unknown[] =>
      archive.items.map(({ kind, title, possible, isStaffOnly, page, discussion, assignment, link }) => {
        const text = JSON.stringify([page, discussion?.document, assignment?.instructions]).replace(/[0-9a-f]{8}-[0-9a-f-]{27}/g, '#');
        return { kind, title, possible, isStaffOnly, link, text };
      });
    expect(bare(after)).toEqual(bare(before));
    expect(after.files.map((f) => [f.name, f.sha256]).sort()).toEqual(before.files.map((f) => [f.name, f.sha256]).sort());
    expect(after.units.map((u) => [u.title, u.itemIds.length])).toEqual(before.units.map((u) => [u.title, u.itemIds.length]));
  });

  it('says what has no place in it, and names nobody', async () => {
    const base = `/api/courses/${school.courseId}`;
    const { losses } = (await teacher().get(`${base}/cartridge/losses`).expect(200)).body as { losses: string[] };
    expect(losses.join('\n')).toMatch(/The dates of \d item/);
    const { id } = (
      await teacher().post(`${base}/items`).send({ unitId: school.unitId, kind: 'link', title: 'Not yet', position: 0 }).expect(200)
    ).body;
    await teacher().post(`${base}/items`).send({ unitId: school.unitId, kind: 'activity', title: 'At the bench', position: 0 }).expect(200);
    const again = (await teacher().get(`${base}/cartridge/losses`).expect(200)).body as { losses: string[] };
    expect(again.losses).toContain('“Not yet” leads nowhere yet, so it stays behind.');
    expect(again.losses).toContain('“At the bench” is judged without a hand-in, so it stays behind.');
    const zip = await takeOut(school.courseId, 'cartridge');
    const manifest = await zip.readText('imsmanifest.xml', 1_000_000);
    zip.close();
    expect(manifest).not.toContain(id);
    expect(manifest).not.toContain('example.org');
  });
});
