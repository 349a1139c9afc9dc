import { PART_BYTES } from '@rosemary/api';
import { randomUUID } from 'node:crypto';
import { handInText, makeSchool, type TestSchool } from './school.ts';

/** A file in parts: a lost connection goes on where it stopped, and nothing comes twice. */
let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('uploads');
  await school.pool.query('update assignment set most_bytes = 3000000 where item_id = $1', [school.itemId]);
}, 60_000);
afterAll(() => school.close());
const own = (): string => `/api/courses/${school.courseId}/own/items/${school.itemId}`;
const pdf = (size: number): Buffer => Buffer.concat([Buffer.from('%PDF-1.4\n'), Buffer.alloc(size - 9, 'x')]);
const begin = (id: string, size: number, name = 'Maßband ✓.pdf', who: 'student' | 'second' = 'student') =>
  school.agents[who].post(`${own()}/uploads`).send({ id, name, size });
const part = (id: string, from: number, bytes: Buffer, who: 'student' | 'second' = 'student') =>
  school.agents[who].put(`${own()}/uploads/${id}/part?from=${from}`).set('content-type', 'application/octet-stream').send(bytes);
const done = (id: string, who: 'student' | 'second' = 'student') => school.agents[who].post(`${own()}/uploads/${id}/done`);

describe('a file in parts', () => {
  it('arrives whole under its name, though a part came twice and another out of turn', async () => {
    const [id, bytes] = [randomUUID(), pdf(PART_BYTES * 2 + 1000)];
    expect((await begin(id, bytes.length).expect(200)).body).toEqual({ received: 0 });
    const first = bytes.subarray(0, PART_BYTES);
    await part(id, 0, first).expect(200);
    expect((await part(id, 0, first).expect(200)).body).toEqual({ received: PART_BYTES });
    expect((await part(id, PART_BYTES * 2, bytes.subarray(PART_BYTES * 2)).expect(409)).body.current).toEqual({ received: PART_BYTES });
    expect((await done(id).expect(409)).body.current).toEqual({ received: PART_BYTES });
    // Asked after a reload: it goes on where it stopped.
    expect((await begin(id, bytes.length).expect(200)).body).toEqual({ received: PART_BYTES });
    await part(id, PART_BYTES, bytes.subarray(PART_BYTES, PART_BYTES * 2)).expect(200);
    await part(id, PART_BYTES * 2, bytes.subarray(PART_BYTES * 2)).expect(200);
    const { body: file } = await done(id).expect(200);
    expect([file.name, file.size]).toEqual(['Maßband ✓.pdf', bytes.length]);
    const sent = await school.agents.student
      .get(file.url as string)
      .buffer(true)
      .expect(200);
    expect(Buffer.compare(sent.body as Buffer, bytes)).toBe(0);
    const { rows } = await school.pool.query('select 1 from upload_part');
    expect(rows).toEqual([]);
    await school.agents.student.delete(`${own()}/files/${file.id}`).expect(200);
  });

  it('is checked when it is whole, as any other', async () => {
    const [id, bytes] = [randomUUID(), Buffer.from('#!/bin/sh\necho no')];
    await begin(id, bytes.length).expect(200);
    await part(id, 0, bytes).expect(200);
    const { body } = await done(id).expect(415);
    expect(body.detail).toContain('is really plain text and code');
    await begin(randomUUID(), 3_000_001).expect(413);
    await begin(id, bytes.length + 1).expect(422);
  });

  it('is nobody else’s', async () => {
    const id = randomUUID();
    await begin(id, 100).expect(200);
    await part(id, 0, pdf(100), 'second').expect(404);
    await done(id, 'second').expect(404);
    await begin(id, 100, 'x.pdf', 'second').expect(404);
  });

  it('takes no more than was said, and nothing that is no file', async () => {
    const id = randomUUID();
    await begin(id, 50).expect(200);
    await part(id, 0, pdf(60)).expect(422);
    await part(id, 0, Buffer.alloc(PART_BYTES + 1)).expect(413);
    await school.agents.student.put(`${own()}/uploads/${id}/part?from=0`).send({ a: 1 }).expect(422);
  });
});

describe('files of earlier work', () => {
  it('are laid to another, where their kind is taken', async () => {
    const { body: file } = await school.agents.student.post(`${own()}/files`).attach('file', pdf(200), 'earlier.pdf').expect(200);
    await handInText(school, 'student', 'With a file');
    const list = await school.agents.student.get(`/api/courses/${school.courseId}/own/files`).expect(200);
    expect(list.body.files.map((f: { name: string }) => f.name)).toEqual(['earlier.pdf']);
    expect((await school.agents.second.get(`/api/courses/${school.courseId}/own/files`).expect(200)).body.files).toEqual([]);
    await school.agents.student.post(`${own()}/files/${file.id}/restore`).expect(200);
    await school.agents.second.post(`${own()}/files/${file.id}/restore`).expect(404);
    await school.agents.student.delete(`${own()}/files/${file.id}`).expect(200);
    await school.pool.query("update assignment set file_types = '{picture}' where item_id = $1", [school.itemId]);
    expect((await school.agents.student.post(`${own()}/files/${file.id}/restore`).expect(422)).body.detail).toContain('not taken here');
  });
});
