import { STARTER_REMARKS } from '@rosemary/core';
import type { RemarkView } from '@rosemary/api';
import { randomUUID } from 'node:crypto';
import { handInText, makeSchool, type TestSchool } from './school.ts';

/** What a marker says often, kept for themselves. */
let school: TestSchool;
beforeEach(async () => {
  school = await makeSchool('remarks');
}, 60_000);
afterEach(() => school.close());
const list = async (who: 'instructor' | 'assistant' = 'instructor'): Promise<RemarkView[]> =>
  (await school.agents[who].get('/api/remarks').expect(200)).body as RemarkView[];
const add = (body: string, shortcut = '', id = randomUUID(), criterion = '') =>
  school.agents.instructor.post('/api/remarks').send({ id, body, shortcut, criterion });

describe('stock remarks', () => {
  it('begin with a set, once however often it is asked for, and are one’s own', async () => {
    expect(await list()).toEqual([]);
    await school.agents.instructor.post('/api/remarks/starter').expect(200);
    await school.agents.instructor.post('/api/remarks/starter').expect(200);
    expect((await list()).map((r) => r.shortcut)).toEqual(STARTER_REMARKS.map((r) => r.shortcut));
    expect(await list('assistant')).toEqual([]);
  });

  it('are kept, changed and removed, with the way back', async () => {
    const id = randomUUID();
    await add('  Which tool? ', ' Tool', id, 'Evidence').expect(200);
    await add('Which tool?', 'tool', id).expect(200);
    expect(await list()).toEqual([{ id, body: 'Which tool?', criterion: 'Evidence', shortcut: 'tool', points: null, uses: 0, version: 1 }]);
    await school.agents.instructor.patch(`/api/remarks/${id}`).send({ version: 1, body: 'With which tool?' }).expect(200);
    const stale = await school.agents.instructor.patch(`/api/remarks/${id}`).send({ version: 1, body: 'x' }).expect(409);
    expect(stale.body.current.body).toBe('With which tool?');
    await school.agents.instructor.delete(`/api/remarks/${id}`).expect(200);
    expect(await list()).toEqual([]);
    await school.agents.instructor.post(`/api/remarks/${id}/restore`).expect(200);
    expect((await list()).map((r) => r.body)).toEqual(['With which tool?']);
  });

  it('call one remark by one set of letters', async () => {
    await add('Which tool?', 'tool').expect(200);
    const taken = await add('Another', 'tool').expect(422);
    expect([taken.body.pointers[0].field, taken.body.detail]).toEqual(['shortcut', expect.stringContaining('“Which tool?”')]);
    expect((await add('Another', 'no good!').expect(422)).body.detail).toContain('six letters and digits');
    expect((await add('   ').expect(422)).body.pointers[0].field).toBe('body');
  });

  it('count the notes they stand in, and leave those as they are', async () => {
    const id = randomUUID();
    await add('How do you know?', 'how', id).expect(200);
    await handInText(school, 'student', 'The barrel is worn.');
    const path = `/api/courses/${school.courseId}/marking/${school.itemId}/${school.students[0]}`;
    const { attempts } = (await school.agents.instructor.get(path).expect(200)).body;
    const note = (remarkId: string | null) => ({
      ...{ id: randomUUID(), attemptId: attempts[0].id, fileId: null, anchor: { kind: 'text', from: 1, to: 4 } },
      ...{ quote: 'The', body: 'How do you know?', remarkId },
    });
    await school.agents.instructor.post(`${path}/notes`).send(note(id)).expect(200);
    await school.agents.instructor.post(`${path}/notes`).send(note(null)).expect(200);
    // Another’s remark is not counted as said by them.
    await school.agents.assistant.post(`${path}/notes`).send(note(id)).expect(200);
    expect((await list())[0]?.uses).toBe(1);
    await school.agents.instructor.delete(`/api/remarks/${id}`).expect(200);
    expect((await school.agents.instructor.get(path).expect(200)).body.notes).toHaveLength(3);
  });

  it('are for those who mark, and nobody else’s are reached', async () => {
    const id = randomUUID();
    await add('Mine', '', id).expect(200);
    await school.agents.student.get('/api/remarks').expect(403);
    await school.agents.student.post('/api/remarks').send({ id: randomUUID(), body: 'x', shortcut: '', criterion: '' }).expect(403);
    await school.agents.nobody.get('/api/remarks').expect(401);
    await school.agents.assistant.patch(`/api/remarks/${id}`).send({ version: 1, body: 'x' }).expect(404);
    await school.agents.assistant.delete(`/api/remarks/${id}`).expect(404);
  });
});
