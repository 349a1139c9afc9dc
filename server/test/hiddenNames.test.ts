import { paragraphs } from '@rosemary/api';
import { randomUUID } from 'node:crypto';
import JSZip from 'jszip';
import type supertest from 'supertest';
import { veiledId } from '../src/anonymity/index.ts';
import { routes } from '../src/routes.ts';
import { makeSchool, START, type TestSchool } from './school.ts';

/** No view that staff can open, of all there are, tells whose work is whose while names are hidden, nor an assistant of whom they do not teach. */
let school: TestSchool;
let ids: Readonly<Record<string, string>> = {};
const HANDED_IN = START + (17 * 60 + 23) * 1000;
const NOWHERE = '00000000-0000-4000-8000-000000000000';

beforeAll(async () => {
  school = await makeSchool('hidden_names');
  const course = `/api/courses/${school.courseId}`;
  const own = `${course}/own/items/${school.itemId}`;
  await school.pool.query("update assignment set anonymous = 'release', accepts_files = true where item_id = $1", [school.itemId]);
  const student = school.agents.student;
  school.clock.at = HANDED_IN - 5000;
  const item = await student.get(own).expect(200);
  await student.post(`${own}/visits`).send({ seconds: 61 }).expect(200);
  const file = await student.post(`${own}/files`).attach('file', Buffer.from('%PDF-1.4 a drawing'), 'first-drawing.pdf').expect(200);
  const saved = await student
    .put(`${own}/draft`)
    .send({ document: paragraphs('Zinnwald barrel.'), version: item.body.draft.version })
    .expect(200);
  school.clock.at = HANDED_IN;
  await student.post(`${own}/hand-in`).send({ note: 'Quorndon note', key: 'a key for this', version: saved.body.version }).expect(200);
  await student.post(`${own}/words`).send({ id: randomUUID(), body: 'Ravensworth word' }).expect(200);
  school.clock.at = HANDED_IN + 70 * 60_000;
  const { rows } = await school.pool.query(
    'select e.person_id, a.id as attempt_id from enrolment e left join submission s on s.enrolment_id = e.id left join attempt a on a.submission_id = s.id where e.id = $1',
    [school.students[0]],
  );
  const { rows: key } = await school.pool.query('select anonymous_key from assignment where item_id = $1', [school.itemId]);
  // The student of the other section has done something of everything too.
  await school.agents.instructor
    .post(`${course}/group-sets`)
    .send({ title: 'Pairs', makes: 'dealt', number: 1, withinSections: false })
    .expect(200);
  const other = await school.agents.second.get(own).expect(200);
  const theirs = await school.agents.second
    .put(`${own}/draft`)
    .send({ document: paragraphs('Theirs.'), version: other.body.draft.version })
    .expect(200);
  await school.agents.second.post(`${own}/hand-in`).send({ note: '', key: 'another key', version: theirs.body.version }).expect(200);
  const { entries } = (await school.agents.instructor.get(`${course}/marking/${school.itemId}`).expect(200)).body;
  const veiled = veiledId(key[0].anonymous_key as string, school.students[0]);
  expect(entries.map((e: { enrolmentId: string }) => e.enrolmentId)).toContain(veiled);
  const work = (await school.agents.instructor.get(`${course}/marking/${school.itemId}/${veiled}`).expect(200)).body;
  await school.agents.instructor
    .put(`${course}/marking/${school.itemId}/${veiled}/mark`)
    .send({ version: work.mark.version, choices: {}, score: 7310, scoreReason: '', feedback: paragraphs('Yarnfold feedback') })
    .expect(200);
  ids = {
    courseId: school.courseId,
    itemId: school.itemId,
    unitId: school.unitId,
    columnId: school.columnId,
    enrolmentId: school.students[0],
    personId: rows[0].person_id as string,
    attemptId: rows[0].attempt_id as string,
    fileId: file.body.id as string,
    sectionId: school.sections[0],
    veiled,
  };
}, 60_000);
afterAll(() => school.close());

/** What leads to one student, and what leads to one work. */
const NAMES = (): RegExp => new RegExp(`First|first@example|${ids.enrolmentId}|${ids.personId}`);
const TRACES = (): RegExp =>
  new RegExp(`Zinnwald|Quorndon|Ravensworth|Yarnfold|first-drawing|T09:17|T09:16|T10:17|10:17|7310|7\\.31|${ids.veiled}|${ids.attemptId}`);

async function textOf(answer: supertest.Response): Promise<string> {
  const body = answer.body as Buffer;
  if (!Buffer.isBuffer(body)) return answer.text;
  if (body.subarray(0, 2).toString() !== 'PK') return body.toString('utf8');
  const zip = await JSZip.loadAsync(body);
  const parts = await Promise.all(Object.values(zip.files).map(async (f) => `${f.name}\n${f.dir ? '' : await f.async('string')}`));
  return parts.join('\n');
}

const looks = routes.map((route) => route.endpoint).filter((at) => at.method === 'get' && !at.path.includes('/events'));
const addressOf = (path: string, enrolmentId: string): string =>
  `/api${path.replace(/:(\w+)/g, (_, name: string) => (name === 'enrolmentId' ? enrolmentId : (ids[name] ?? NOWHERE)))}`;

async function look(who: 'instructor' | 'assistant' | 'administrator', path: string, seenAs: string | null): Promise<string | null> {
  const asked = school.agents[who]
    .get(path)
    .buffer(true)
    .parse((response, done) => {
      const parts: Buffer[] = [];
      response.on('data', (part: Buffer) => parts.push(part));
      response.on('end', () => done(null, Buffer.concat(parts)));
    });
  const answer = await (seenAs === null ? asked : asked.set('x-see-as', seenAs));
  return answer.status === 200 ? textOf(answer) : null;
}
const around = (text: string, found: RegExp): string => {
  const at = text.search(found);
  return text.slice(Math.max(0, at - 200), at + 60);
};

describe.each(['instructor', 'assistant', 'administrator'] as const)('whatever the %s opens', (who) => {
  it('holds a name or a work, and never both', async () => {
    const told: string[] = [];
    let opened = 0;
    for (const { path } of looks)
      for (const enrolmentId of path.includes(':enrolmentId') ? [school.students[0], ids.veiled ?? ''] : ['']) {
        const address = addressOf(path, enrolmentId);
        const text = await look(who, address, null);
        if (text === null) continue;
        opened += 1;
        const isNamed = NAMES().test(text) || address.includes(school.students[0]);
        if (isNamed && TRACES().test(text)) told.push(`${address}: …${around(text, TRACES())}…`);
      }
    expect(told).toEqual([]);
    expect(opened).toBeGreaterThan(who === 'administrator' ? 5 : 30);
  });
});

describe('an assistant of one section', () => {
  it('is told of nobody in another, by no view there is', async () => {
    const told: string[] = [];
    for (const { path } of looks)
      for (const enrolmentId of path.includes(':enrolmentId') ? school.students : ['']) {
        const address = addressOf(path, enrolmentId);
        const text = await look('assistant', address, null);
        const found = new RegExp(`Second|second@example|${school.students[1]}`);
        if (text !== null && found.test(text)) told.push(`${address}: …${around(text, found)}…`);
      }
    expect(told).toEqual([]);
  });
});

describe('whatever staff open as the student', () => {
  it('holds nothing of the work', async () => {
    const told: string[] = [];
    let opened = 0;
    for (const { path } of looks.filter((at) => at.path.includes(':courseId'))) {
      const address = addressOf(path, school.students[0]);
      const text = await look('instructor', address, school.students[0]);
      if (text === null) continue;
      opened += 1;
      if (TRACES().test(text)) told.push(`${address}: …${around(text, TRACES())}…`);
    }
    expect(told).toEqual([]);
    expect(opened).toBeGreaterThan(8);
  });
});
