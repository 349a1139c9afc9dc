import type {
  FollowUps,
  FollowWish,
  OwnPeer,
  OwnReview,
  OwnSample,
  PeerSample,
  PeerSetting,
  PeerWork,
  SampleSource,
  ShownWorkView,
  ThisWeek,
} from '@rosemary/api';
import { plainText, type DocumentNode } from '@rosemary/core';
import { type Agent, DAY, judge, otherWork, PNG, text, textOfPdf, usePeers } from './peerHelp.ts';
import { PDFDocument } from 'pdf-lib';
import { followResults } from '../src/followUp/follow.ts';
import { doJob, START } from './school.ts';

/** What surrounds the reviews: sample works to practise on, leave, works that are shown, revision, rules of being done, and what is taken out. */
const peers = usePeers('peerafter');
const { at, own, teacher, iso, sql, readSetting, change, handIn, board, ownPeer, give, begun, giveAll, addSample } = peers;

const student = (n: number): (typeof peers.students)[number] => peers.students[n] as (typeof peers.students)[number];
const sampleAt = (path: string): string => `/api/courses/${peers.school.courseId}/items/${peers.school.itemId}/own-samples/${path}`;
async function practise(n: number, id: string, level: number): Promise<OwnSample> {
  const { agent } = student(n);
  const sample = (await agent.get(sampleAt(id)).expect(200)).body as OwnSample;
  const saved = await agent
    .put(sampleAt(id))
    .send({ version: sample.version, ...judge(sample.form, level), words: '', seconds: 0 })
    .expect(200);
  return (
    await agent
      .post(sampleAt(`${id}/compare`))
      .send({ version: saved.body.version })
      .expect(200)
  ).body as OwnSample;
}
const giveResults = async (): Promise<void> => {
  await teacher().post(at('/results')).expect(200);
};

describe('sample works', () => {
  it('are seen by students once the teacher has assessed them whole, and what is missing is said', async () => {
    await change();
    const made = (await teacher().post(at('/samples')).send({ from: null }).expect(200)).body as PeerSample;
    expect(made.unjudged).toHaveLength(3);
    const set = await readSetting();
    expect(set.samples[0]).toMatchObject({ id: made.id, practised: 0, unjudged: made.unjudged });
    expect(set.faults.map((f) => f.field)).toContain('samples');
    expect((await ownPeer(0)).samples).toEqual([]);
    await student(0).agent.get(sampleAt(made.id)).expect(404);
    const body = { version: made.version, title: 'A short plan', document: text('Short.'), words: '', ...judge(made.form, 1) };
    await teacher()
      .put(at(`/samples/${made.id}`))
      .send({ ...body, title: '' })
      .expect(422);
    await teacher()
      .put(at(`/samples/${made.id}`))
      .send(body)
      .expect(200);
    // Saved by two windows, the second is asked.
    await teacher()
      .put(at(`/samples/${made.id}`))
      .send({ ...body, title: 'Another' })
      .expect(409);
    expect((await ownPeer(0)).samples.map((s) => [s.title, s.state, s.door.isOpen])).toEqual([['A short plan', 'to give', true]]);
  });

  it('show the teacher’s assessment only once the student’s is whole, and then both stay', async () => {
    await change();
    const sample = await addSample();
    const { agent } = student(0);
    const before = (await agent.get(sampleAt(sample.id)).expect(200)).body as OwnSample;
    expect([before.teacher, plainText(before.document)]).toEqual([null, 'A work to practise on']);
    expect(JSON.stringify(before)).not.toContain('Say why.');
    const half = await agent
      .put(sampleAt(sample.id))
      .send({ version: 0, choices: {}, given: {}, comments: {}, words: 'Half', seconds: 0 })
      .expect(200);
    await agent
      .put(sampleAt(sample.id))
      .send({ version: 0, choices: {}, given: {}, comments: {}, words: 'From another window', seconds: 0 })
      .expect(409);
    const refused = await agent
      .post(sampleAt(`${sample.id}/compare`))
      .send({ version: half.body.version })
      .expect(422);
    expect(refused.body.detail).toContain('Not judged yet');
    const compared = await practise(0, sample.id, 3);
    expect(compared.teacher).toMatchObject({ words: 'In all', comments: { [sample.form.criteria.at(-1)?.id ?? '']: 'Say why.' } });
    await agent
      .put(sampleAt(sample.id))
      .send({ version: compared.version, ...judge(compared.form, 0), words: '', seconds: 0 })
      .expect(409);
    expect((await readSetting()).samples[0]?.practised).toBe(1);
    expect((await board()).lines.map((l) => l.practised).sort()).toEqual([0, 0, 0, 0, 0, 1]);
    // What one made of it is nobody else’s.
    expect(((await student(1).agent.get(sampleAt(sample.id)).expect(200)).body as OwnSample).choices).toEqual({});
  });

  it('that must come first keep the reviews shut until each is compared', async () => {
    await begun(6, { samples: 'before' });
    const sample = await addSample();
    const line = (await ownPeer(0)).owed[0];
    expect(line?.door).toMatchObject({ isOpen: false, why: 'samples first' });
    await student(0)
      .agent.get(own(`/${line?.id}`))
      .expect(404);
    await practise(0, sample.id, 1);
    expect((await ownPeer(0)).owed[0]?.door.isOpen).toBe(true);
    await give(0, line?.id ?? '', 1);
  });

  it('that come after are shut until one’s reviews are given', async () => {
    await begun(6, { samples: 'after' });
    const sample = await addSample();
    expect((await ownPeer(0)).samples[0]?.door).toMatchObject({ isOpen: false, why: 'others first' });
    await student(0).agent.get(sampleAt(sample.id)).expect(404);
    for (const { id } of (await ownPeer(0)).owed) await give(0, id, 1);
    expect((await practise(0, sample.id, 2)).teacher).not.toBeNull();
  });

  it('are deleted and brought back with what students made of them', async () => {
    await change();
    const sample = await addSample();
    await practise(0, sample.id, 2);
    const turn = async (isRemoved: boolean): Promise<PeerSetting> =>
      (
        await teacher()
          .put(at(`/samples/${sample.id}/removed`))
          .send({ isRemoved })
          .expect(200)
      ).body as PeerSetting;
    expect((await turn(true)).samples).toEqual([]);
    expect((await ownPeer(0)).samples).toEqual([]);
    await teacher()
      .get(at(`/samples/${sample.id}`))
      .expect(404);
    expect((await turn(false)).samples[0]?.practised).toBe(1);
  });

  it('keep their files apart from those of the task and the prompt', async () => {
    await change();
    const sample = await addSample();
    const put = async (): Promise<{ id: string; url: string }> =>
      (await teacher().post(`/api/courses/${peers.school.courseId}/files`).attach('file', PNG, 'dial.png').expect(200)).body as {
        id: string;
        url: string;
      };
    const [ofPrompt, ofSample] = [await put(), await put()];
    const shows = ({ id, url }: { id: string; url: string }): DocumentNode => ({
      type: 'doc',
      content: [{ type: 'picture', attrs: { fileId: id, src: url, alt: 'A dial' } }],
    });
    await change({ prompt: shows(ofPrompt) });
    await teacher()
      .put(at(`/samples/${sample.id}`))
      .send({ version: sample.version, title: 'With a picture', document: shows(ofSample), words: '', ...judge(sample.form, 2) })
      .expect(200);
    const task = await teacher().get(`/api/courses/${peers.school.courseId}/items/${peers.school.itemId}`).expect(200);
    await teacher()
      .put(`/api/courses/${peers.school.courseId}/items/${peers.school.itemId}/assignment`)
      .send({ version: task.body.assignment.version, instructions: text('A task without a picture') })
      .expect(200);
    for (const file of [ofPrompt, ofSample]) await student(0).agent.get(file.url).expect(200);
  });

  it('are taken from another course with leave, without the name of their author in any file', async () => {
    await change();
    const { submission, code } = await otherWork(peers.school);
    const find = async (words: string): Promise<readonly SampleSource[]> =>
      ((await teacher().get(at('/sample-sources')).query({ text: words }).expect(200)).body as { sources: SampleSource[] }).sources;
    expect((await find(code)).map((s) => [s.submissionId, s.hasLeave, s.result])).toEqual([[submission, false, 50_000]]);
    expect(await find('nothing of the kind')).toEqual([]);
    const take = (saysLeave: boolean) =>
      teacher()
        .post(at('/samples'))
        .send({ from: { submissionId: submission, saysLeave } });
    const refused = await take(false).expect(409);
    expect(refused.body.detail).toContain('has not given leave');
    const taken = (await take(true).expect(200)).body as PeerSample;
    expect([plainText(taken.document), taken.origin]).toEqual(['What was learnt last year', expect.stringContaining(code)]);
    expect(JSON.stringify(taken)).not.toContain('Earlier');
    await sql("insert into work_leave (submission_id, to_class, to_later, said_at) values ($1, 'no', true, now())", [submission]);
    expect((await find(code))[0]?.hasLeave).toBe(true);
    await teacher()
      .post(at('/samples'))
      .send({ from: { submissionId: submission, saysLeave: false } })
      .expect(200);
    // Nobody takes a work of a course they do not teach, an assistant takes none at all.
    await sql(
      'update enrolment set withdrawn_at = now() where course_id = (select i.course_id from submission s join item i on i.id = s.item_id where s.id = $1) and role = $2',
      [submission, 'instructor'],
    );
    await take(true).expect(404);
    await peers.school.agents.assistant.get(at('/sample-sources')).expect(403);
  });

  it('are copied with the item, what the teacher judged by the criteria of the copied form', async () => {
    await change();
    await addSample('To be copied', 3);
    const made = await teacher()
      .post(`/api/courses/${peers.school.courseId}/items/duplicates`)
      .send({ itemIds: [peers.school.itemId] })
      .expect(200);
    const [copyId] = made.body.made as string[];
    const copy = (await teacher().get(`/api/courses/${peers.school.courseId}/items/${copyId}/peer`).expect(200)).body as PeerSetting;
    expect(copy.samples.map((s) => [s.title, s.unjudged, s.practised])).toEqual([['Practice', [], 0]]);
    const sample = (
      await teacher().get(`/api/courses/${peers.school.courseId}/items/${copyId}/peer/samples/${copy.samples[0]?.id}`).expect(200)
    ).body as PeerSample;
    expect(sample.choices).toEqual(judge(copy.form, 3).choices);
  });
});

describe('what comes after', () => {
  const leave = (n: number, body: object, status = 200) =>
    student(n).agent.put(`/api/courses/${peers.school.courseId}/items/${peers.school.itemId}/own-leave`).send(body).expect(status);
  const workOf = async (n: number): Promise<string> => (await board()).lines.find((l) => l.enrolmentId === student(n).id)?.workId ?? '';
  const show = (workId: string, more: object = {}, who: Agent = teacher()) =>
    who.put(at(`/works/${workId}/shown`)).send({ isShown: true, isNamed: false, saysLeave: false, words: 'Look at the order.', ...more });

  it('a work is shown once results are out, with the leave of its author and as it was given', async () => {
    await begun(6);
    await giveAll(() => 2);
    const work = await workOf(0);
    expect((await show(work, { saysLeave: true }).expect(409)).body.detail).toContain('once the results');
    await giveResults();
    expect((await show(work).expect(409)).body.detail).toContain('has not given leave');
    await leave(0, { version: 0, toClass: 'without name', toLater: true });
    await leave(0, { version: 0, toClass: 'no', toLater: false }, 409);
    expect((await show(work, { isNamed: true }).expect(409)).body.detail).toContain('with the name');
    const shown = (await show(work).expect(200)).body as PeerWork;
    expect([shown.leave, shown.showing?.isShown]).toEqual([{ toClass: 'without name', toLater: true }, true]);
    const seen = await ownPeer(3);
    expect(seen.shown).toEqual([{ workId: expect.any(String), by: 'A work of your class', isOwn: false, words: 'Look at the order.' }]);
    const read = (
      await student(3)
        .agent.get(`/api/courses/${peers.school.courseId}/items/${peers.school.itemId}/shown-works/${seen.shown[0]?.workId}`)
        .expect(200)
    ).body as ShownWorkView;
    expect(plainText(read.work.document)).toBe('The work of number 0');
    // Nothing of it leads to its author: no name, no identifier of person, enrolment or submission.
    const people = await sql<{ id: string }>(
      'select person_id::text as id from enrolment where id = $1 union select id::text from submission where id = $2',
      [student(0).id, work],
    );
    for (const word of ['First', student(0).id, work, ...people.map((p) => p.id)])
      expect(JSON.stringify([seen.shown, read])).not.toContain(word);
    expect((await ownPeer(0)).shown[0]).toMatchObject({ by: 'Your own work', isOwn: true });
    // Taken back, it is shown no more.
    await leave(0, { version: 1, toClass: 'no', toLater: false });
    expect((await ownPeer(3)).shown).toEqual([]);
    await student(3)
      .agent.get(`/api/courses/${peers.school.courseId}/items/${peers.school.itemId}/shown-works/${seen.shown[0]?.workId}`)
      .expect(404);
  });

  it('a work is shown with its name where that was said, and hidden by the teacher again', async () => {
    await begun(6);
    await giveResults();
    await leave(1, { version: 0, toClass: 'with name', toLater: false });
    const work = await workOf(1);
    await show(work, { isNamed: true }).expect(200);
    expect((await ownPeer(3)).shown[0]?.by).toBe('Second Tester');
    expect((await board()).works.filter((w) => w.isShown).map((w) => w.id)).toEqual([work]);
    await show(work, { isShown: false }).expect(200);
    expect((await ownPeer(3)).shown).toEqual([]);
    await show(work, {}, student(0).agent).expect(403);
    await leave(5, { version: 0, toClass: 'everybody', toLater: false }, 422);
  });

  it('a closing word is read by everybody once results are out, and by nobody before', async () => {
    await begun(6);
    const say = (version: number, words = 'All in all, well done.') =>
      teacher()
        .put(at('/closing'))
        .send({ version, document: text(words) });
    await say(1).expect(200);
    await say(1, 'From another window').expect(409);
    expect((await ownPeer(0)).closing).toBeNull();
    await giveResults();
    expect(plainText((await ownPeer(0)).closing)).toBe('All in all, well done.');
    await teacher().put(at('/closing')).send({ version: 2, document: null }).expect(200);
    expect((await ownPeer(0)).closing).toBeNull();
  });

  it('a work is revised by its reviews: one attempt more, its points ticked, what changed beside them', async () => {
    await begun(6, { revisionDueAt: iso(9) });
    for (const n of peers.students.keys()) for (const line of (await ownPeer(n)).owed) await give(n, line.id, n === 5 ? 1 : 2);
    await sql('update assignment set attempts_allowed = 1 where item_id = $1', [peers.school.itemId]);
    const { agent } = student(0);
    const item = `/api/courses/${peers.school.courseId}/own/items/${peers.school.itemId}`;
    expect((await agent.get(item).expect(200)).body.canHandIn).toBe(false);
    await giveResults();
    peers.school.clock.at = START + 7 * DAY;
    const open = (await agent.get(item).expect(200)).body;
    expect([open.canHandIn, open.revision.dueAt]).toEqual([true, iso(9)]);
    const received = ((await ownPeer(0)).received ?? [])[0];
    // Nothing was written on the criterion, so there is nothing to take up.
    const point = (body: object) =>
      agent.put(`/api/courses/${peers.school.courseId}/items/${peers.school.itemId}/received-reviews/${received?.id}/points`).send(body);
    await point({ point: { criterionId: received?.form.criteria[0]?.id }, isAnswered: true }).expect(404);
    await sql("update review set comments = jsonb_build_object($2::text, 'Say why.') where id = $1", [
      received?.id,
      received?.form.criteria[0]?.id,
    ]);
    const ticked = (await point({ point: { criterionId: received?.form.criteria[0]?.id }, isAnswered: true }).expect(200)).body as OwnPeer;
    expect(ticked.received?.find((r) => r.id === received?.id)?.answered).toEqual([received?.form.criteria[0]?.id]);
    await handIn(0, 'The work of number 0, with its reasons');
    const work = (
      await teacher()
        .get(at(`/works/${await workOf(0)}`))
        .expect(200)
    ).body as PeerWork;
    expect([plainText(work.revised?.before ?? null), plainText(work.revised?.after ?? null)]).toEqual([
      'The work of number 0',
      'The work of number 0, with its reasons',
    ]);
    expect(work.reviews.find((r) => r.id === received?.id)?.answered).toHaveLength(1);
    expect((await board()).works.filter((w) => w.isRevised).map((w) => w.id)).toEqual([work.id]);
    // The one that was revised waits for a marker, the others do not.
    const marking = (await teacher().get(`/api/courses/${peers.school.courseId}/marking`).expect(200)).body as {
      items: { id: string; waits: number }[];
    };
    expect(marking.items.find((i) => i.id === peers.school.itemId)?.waits).toBe(1);
    // The date is taken away: nobody else can revise any more, and what was handed in stays.
    await change({ revisionDueAt: null });
    expect((await student(1).agent.get(item).expect(200)).body.canHandIn).toBe(false);
    expect((await board()).works.filter((w) => w.isRevised)).toHaveLength(1);
  });
});

describe('a file that was handed in', () => {
  const NAME = 'Zinnwald';
  async function handInFile(n: number): Promise<void> {
    const pdf = await PDFDocument.create();
    pdf.addPage();
    pdf.setAuthor(NAME);
    const at = `/api/courses/${peers.school.courseId}/own/items/${peers.school.itemId}`;
    await student(n)
      .agent.post(`${at}/files`)
      .attach('file', Buffer.from(await pdf.save()), `${NAME}.pdf`)
      .expect(200);
    await handIn(n);
  }
  const readPdf = async (agent: Agent, url: string) => {
    const found = await agent.get(url).responseType('blob').expect(200);
    return { headers: JSON.stringify(found.headers), author: (await PDFDocument.load(found.body as Buffer)).getAuthor() ?? null };
  };
  const filesOf = async (n: number) => {
    const owed = (await ownPeer(n)).owed.map((o) => o.id);
    const opened = await Promise.all(
      owed.map(
        async (id) =>
          (
            await student(n)
              .agent.get(own(`/${id}`))
              .expect(200)
          ).body as OwnReview,
      ),
    );
    return opened.flatMap((o) => o.work.files);
  };
  beforeEach(() => sql('update assignment set accepts_files = true where item_id = $1', [peers.school.itemId]));

  it.each([
    [false, null],
    [true, NAME],
  ])('is read by its reviewers alone, with what it says of its maker only where names are seen (%s)', async (showsAuthors, author) => {
    await change({ showsAuthors });
    await handInFile(0);
    for (const n of [1, 2, 3]) await handIn(n);
    peers.school.clock.at = START + 2 * DAY + 1;
    await peers.draw();
    let read = 0;
    for (const n of [1, 2, 3]) {
      const [file] = await filesOf(n);
      if (file === undefined) continue;
      read += 1;
      expect(file.name.includes(NAME)).toBe(showsAuthors);
      const { headers, author: said } = await readPdf(student(n).agent, file.url);
      expect([said, headers.includes(NAME)]).toEqual([author, showsAuthors]);
      // By another’s review, and by nobody’s, it is not there.
      await student(n === 1 ? 2 : 1)
        .agent.get(file.url)
        .expect(404);
    }
    expect(read).toBe(2);
  });

  it('of a shown work is read by the class without its maker’s name, and no longer once it is hidden', async () => {
    await change();
    await handInFile(0);
    for (const n of [1, 2, 3]) await handIn(n);
    peers.school.clock.at = START + 2 * DAY + 1;
    await peers.draw();
    await giveResults();
    const workId = (await board()).lines.find((l) => l.enrolmentId === student(0).id)?.workId ?? '';
    const show = (isShown: boolean) =>
      teacher()
        .put(at(`/works/${workId}/shown`))
        .send({ isShown, isNamed: false, saysLeave: true, words: '' })
        .expect(200);
    await show(true);
    const shownId = (await ownPeer(5)).shown[0]?.workId ?? '';
    const shown = `/api/courses/${peers.school.courseId}/items/${peers.school.itemId}/shown-works/${shownId}`;
    const [file] = ((await student(5).agent.get(shown).expect(200)).body as ShownWorkView).work.files;
    expect(file?.name).not.toContain(NAME);
    const { headers, author } = await readPdf(student(5).agent, file?.url ?? '');
    expect([author, headers.includes(NAME)]).toEqual([null, false]);
    await show(false);
    await student(5)
      .agent.get(file?.url ?? '')
      .expect(404);
  });
});

describe('what follows from reviews', () => {
  const follow = (path = ''): string => `/api/courses/${peers.school.courseId}/items/${peers.school.itemId}/follow-ups${path}`;
  const wish: FollowWish = {
    ...{ meets: 'gave reviews', points: 0, action: 'message', groupId: null, itemId: null },
    ...{ title: 'Thank you', body: 'All your reviews are in.', isFromNow: false },
  };
  const list = async (): Promise<FollowUps> => (await teacher().get(follow()).expect(200)).body as FollowUps;

  it('reaches whoever gave all of theirs, once each', async () => {
    await begun(4);
    await teacher().post(follow()).send(wish).expect(200);
    expect(await doJob(peers.school, followResults)).toBe(0);
    const [first, second] = (await ownPeer(0)).owed;
    await give(0, first?.id ?? '', 2);
    expect(await doJob(peers.school, followResults)).toBe(0);
    await give(0, second?.id ?? '', 2);
    expect(await doJob(peers.school, followResults)).toBe(1);
    expect(await doJob(peers.school, followResults)).toBe(0);
    const { rules, areReviews, possible } = await list();
    expect([areReviews, possible, rules[0]?.done.map((d) => d.enrolmentId)]).toEqual([true, 60_000, [student(0).id]]);
    const told = await student(0).agent.get('/api/notices').expect(200);
    expect(JSON.stringify(told.body)).toContain('Thank you');
  });

  it('is asked of what nobody reviews in vain, and of a result as at a quiz', async () => {
    await teacher().get(follow()).expect(404);
    await change();
    await teacher()
      .post(follow())
      .send({ ...wish, meets: 'reaches', points: 1000 })
      .expect(200);
    await begun(3);
    await giveAll(() => 2);
    expect(await doJob(peers.school, followResults)).toBe(0);
    await giveResults();
    // While no student reviews here, nothing follows, for nobody would see the rule.
    await change({ isOn: false });
    expect(await doJob(peers.school, followResults)).toBe(0);
    await change({ isOn: true });
    expect(await doJob(peers.school, followResults)).toBe(3);
    await student(0).agent.get(follow()).expect(403);
  });
});

describe('done by reviews', () => {
  it.each([
    ['reviewed', [false, false, true]],
    ['handed in and reviewed', [false, false, true]],
    ['handed in or reviewed', [false, true, true]],
  ] as const)('%s', async (rule, wanted) => {
    await change();
    const item = `/api/courses/${peers.school.courseId}/items/${peers.school.itemId}`;
    const { version } = (await teacher().get(item).expect(200)).body.item;
    await teacher().patch(item).send({ version, doneRule: rule }).expect(200);
    const isDone = async (): Promise<boolean> =>
      (await student(0).agent.get(`/api/courses/${peers.school.courseId}/own/items/${peers.school.itemId}`).expect(200)).body.isDone;
    const found = [await isDone()];
    for (const n of peers.students.keys()) await handIn(n);
    found.push(await isDone());
    peers.school.clock.at = START + 2 * DAY + 1;
    await peers.draw();
    for (const { id } of (await ownPeer(0)).owed) await give(0, id, 1);
    found.push(await isDone());
    expect(found).toEqual(wanted);
    const progress = await teacher()
      .get(`/api/courses/${peers.school.courseId}/progress/people/${student(0).id}`)
      .expect(200);
    expect(JSON.stringify(progress.body)).toContain('all reviews are given');
  });
});

describe('what a student has to do this week', () => {
  it('names the reviews to give, how many are given, and until when; what is past only where late ones are taken', async () => {
    const week = async () =>
      ((await student(0).agent.get('/api/this-week').expect(200)).body as ThisWeek).reviews.map((r) => [
        r.title,
        r.given,
        r.all,
        r.dueAt,
        r.isPast,
      ]);
    await begun(6);
    expect(await week()).toEqual([['Report', 0, 2, iso(4), false]]);
    const [first, second] = (await ownPeer(0)).owed;
    await give(0, first?.id ?? '', 1);
    expect(await week()).toEqual([['Report', 1, 2, iso(4), false]]);
    peers.school.clock.at = START + 5 * DAY;
    expect(await week()).toEqual([['Report', 1, 2, iso(4), true]]);
    await change({ takesLateReviews: false });
    expect(await week()).toEqual([]);
    await change({ takesLateReviews: true });
    await give(0, second?.id ?? '', 1);
    expect(await week()).toEqual([]);
  });
});

describe('what is taken out', () => {
  it('is a table of all reviews with their words, as CSV and as a spreadsheet', async () => {
    await begun(6);
    await giveAll(() => 2);
    const csv = (await teacher().get(at('/table')).query({ format: 'csv' }).expect(200)).text;
    const lines = csv.trim().split(/\r?\n/);
    expect(lines).toHaveLength(1 + 12);
    expect(lines[0]).toContain('Answers the task [points of 10]');
    expect(lines.filter((l) => l.includes('Some words of my own') && l.includes('21'))).toHaveLength(12);
    const sheet = await teacher().get(at('/table')).query({ format: 'xlsx' }).expect(200);
    expect(sheet.headers['content-type']).toContain('spreadsheetml');
    await student(0).agent.get(at('/table')).expect(403);
  });

  it('is a PDF of one student: what they got and what they gave', async () => {
    await begun(6);
    await giveAll(() => 2);
    const paper = await teacher()
      .get(at(`/paper/${student(0).id}`))
      .buffer(true)
      .parse((response, done) => {
        const parts: Buffer[] = [];
        response.on('data', (part: Buffer) => parts.push(part));
        response.on('end', () => {
          done(null, Buffer.concat(parts));
        });
      })
      .expect(200);
    expect((paper.body as Buffer).subarray(0, 5).toString()).toBe('%PDF-');
    const words = await textOfPdf(paper.body as Buffer);
    for (const word of ['Result of the work', 'Second Tester'.split(' ').reverse().join(', ')]) expect(words).toContain(word);
    await student(1)
      .agent.get(at(`/paper/${student(0).id}`))
      .expect(403);
    await teacher()
      .get(at(`/paper/${peers.school.itemId}`))
      .expect(404);
  });
});
