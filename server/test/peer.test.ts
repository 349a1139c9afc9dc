import type { GroupSet, OwnPeer, PeerBoard, PeerSetting, PeerWork, ReviewerWorking } from '@rosemary/api';
import { drawReviewers, givePeerResults } from '../src/peer/index.ts';
import { type Agent, DAY, usePeers } from './peerHelp.ts';
import { doJob, START } from './school.ts';

/** A peer review from its setting to its results, with six students; what each may see of it, and what goes wrong with it. */
const peers = usePeers('peer');
const { at, own, teacher, iso, sql, readSetting, change, handIn, board, ownPeer, open, give, draw, begun, giveAll, gradeOf } = peers;

describe('setting a peer review', () => {
  it('begins with a prompt and a form, and says what still keeps it from running', async () => {
    const first = await readSetting();
    expect([first.setting.version, first.setting.isOn, first.form, first.faults]).toEqual([0, false, null, []]);
    const set = await change({ resultsAt: null });
    expect(set.form?.criteria.map((c) => [c.form, c.levels.length])).toEqual([
      ['levels', 4],
      ['levels', 4],
      ['levels', 4],
      ['comment', 0],
    ]);
    expect(set.faults.map((f) => [f.weight, f.field])).toEqual([['look', 'resultsAt']]);
    expect((await change({ reviewsDueAt: iso(1) })).faults.map((f) => f.field)).toContain('reviewsDueAt');
  });

  it('makes a column for the reviewing with its own points, and takes it away with the setting', async () => {
    await change();
    const columns = () =>
      sql<{ role: string; possible: string }>(
        'select role, possible from grade_column where item_id = $1 and removed_at is null order by role',
        [peers.school.itemId],
      );
    expect(await columns()).toEqual([
      { role: 'reviewing', possible: '10.000' },
      { role: 'work', possible: '60.000' },
    ]);
    await change({ reviewingFrom: 'nothing' });
    expect(await columns()).toHaveLength(1);
    await change({ reviewingFrom: 'done', reviewing: { possible: 5000, categoryId: null } });
    expect((await columns())[0]).toEqual({ role: 'reviewing', possible: '5.000' });
  });

  it('refuses two who set at once, foreign groups and foreign students, each by its field', async () => {
    const set = await change();
    const send = (more: object) =>
      teacher()
        .put(at())
        .send({ ...set.setting, ...more });
    await send({ version: 0 }).expect(409);
    const groups = await send({ groupSetId: peers.school.itemId }).expect(422);
    expect(groups.body.pointers[0].field).toBe('groupSetId');
    await send({ otherDates: [{ sectionId: null, enrolmentId: peers.school.itemId, groupId: null, opensAt: null, dueAt: iso(5) }] }).expect(
      404,
    );
    await send({ reviewsPerWork: 11 }).expect(422);
  });

  it('gives no points to a work that is judged in words, and says so', async () => {
    await sql("update assignment set judged = 'words' where item_id = $1", [peers.school.itemId]);
    // It begins with the teacher’s own mark; results from reviews are chosen against that.
    expect((await change()).faults).toEqual([]);
    expect((await change({ workFrom: 'mean' })).faults.map((f) => f.text)).toEqual([
      'The assignment is not judged in points, so reviews can give it none. Judge it in points, or mark the works yourself.',
    ]);
  });

  it('is for what students hand in or write, and not for a page', async () => {
    await teacher().get(`/api/courses/${peers.school.courseId}/items/${peers.school.draftId}/peer`).expect(404);
  });
});

describe('who reviews whom', () => {
  it('is drawn when the works are due, by itself and once: everybody gives two and gets two', async () => {
    await change();
    for (const n of peers.students.keys()) await handIn(n);
    expect(await doJob(peers.school, drawReviewers, START + DAY)).toBe(0);
    expect(await doJob(peers.school, drawReviewers, START + 2 * DAY)).toBe(1);
    expect(await doJob(peers.school, drawReviewers, START + 2 * DAY + 60_000)).toBe(0);
    peers.school.clock.at = START + 2 * DAY + 1;
    const found = await board();
    expect(found.lines.map((l) => l.owes)).toEqual([2, 2, 2, 2, 2, 2]);
    expect(found.works.map((w) => w.isOpenBecause)).toEqual([null, null, null, null, null, null]);
    const notices = await sql<{ words: string }>('select words from notice where path like $1', [`%${peers.school.itemId}%`]);
    expect(notices.map((n) => n.words)).toEqual(peers.students.map(() => '“Report”: works for you to review'));
  });

  it('fits a late work in by the same job', async () => {
    await begun(5);
    peers.school.clock.at += 30_000;
    await handIn(5);
    expect(await doJob(peers.school, drawReviewers, START + 2 * DAY + 120_000)).toBe(1);
    const found = await board();
    const late = found.lines.find((l) => l.isLate);
    expect(late?.owes).toBeGreaterThan(0);
    expect(found.reviews.filter((r) => r.reviewerId === late?.enrolmentId)).toHaveLength(late?.owes ?? -1);
  });

  it('gives to others what somebody who left was to give', async () => {
    await begun();
    const gone = peers.students[3]?.id;
    await sql('update enrolment set withdrawn_at = to_timestamp($2 / 1000.0) where id = $1', [gone, START + 2 * DAY + 30_000]);
    expect(await doJob(peers.school, drawReviewers, START + 2 * DAY + 120_000)).toBe(1);
    const found = await board();
    expect(found.reviews.some((r) => r.reviewerId === gone)).toBe(false);
    const given = new Map(found.works.map((w) => [w.id, found.reviews.filter((r) => r.workId === w.id).length]));
    expect([...given.values()].filter((many) => many === 2).length).toBeGreaterThanOrEqual(5);
  });

  it('says why a work has too few, where there are two students and three reviews', async () => {
    await change({ reviewsPerWork: 3, reviewsPerStudent: 3 });
    await handIn(0);
    await handIn(1);
    const found = await draw();
    expect(found.works.map((w) => w.isOpenBecause)).toEqual([
      '2 reviews too few: only 1 student may review it',
      '2 reviews too few: only 1 student may review it',
    ]);
  });

  it('refuses a drawing while nobody has handed in', async () => {
    await change();
    const refused = await teacher().post(at('/draws')).send({ asksForMore: false, dropsPast: false }).expect(409);
    expect(refused.body.detail).toContain('Nobody has handed in yet');
  });

  it('is changed by hand: a pair is given and taken, the own work and a pair that is there are refused', async () => {
    const found = await begun();
    const [first] = found.reviews;
    await teacher()
      .delete(at(`/pairs/${first?.id}`))
      .expect(200);
    const back = await teacher().post(at('/pairs')).send({ reviewerId: first?.reviewerId, workId: first?.workId }).expect(200);
    expect((back.body as PeerBoard).reviews.find((r) => r.reviewerId === first?.reviewerId && r.workId === first?.workId)?.isByHand).toBe(
      true,
    );
    await teacher().post(at('/pairs')).send({ reviewerId: first?.reviewerId, workId: first?.workId }).expect(422);
    const line = found.lines[0];
    const refused = await teacher().post(at('/pairs')).send({ reviewerId: line?.enrolmentId, workId: line?.workId }).expect(422);
    expect(refused.body.detail).toContain('own work');
  });

  it('is taken back as one, but for what is begun', async () => {
    const found = await begun();
    const first = (await ownPeer(0)).owed[0];
    await give(0, first?.id ?? '', 2);
    const after = (
      await teacher()
        .delete(at(`/draws/${found.lastDrawId}`))
        .expect(200)
    ).body as PeerBoard;
    expect(after.reviews.map((r) => r.id)).toEqual([first?.id]);
    await teacher()
      .delete(at(`/draws/${found.lastDrawId}`))
      .expect(409);
  });

  it('gives back, where a late drawing is taken back, what it had moved', async () => {
    const before = (await begun(5)).reviews.map((r) => r.id).sort();
    peers.school.clock.at += 30_000;
    await handIn(5);
    const late = await draw();
    const after = late.reviews.map((r) => r.id).sort();
    expect(before.every((id) => after.includes(id))).toBe(false);
    const back = (
      await teacher()
        .delete(at(`/draws/${late.lastDrawId}`))
        .expect(200)
    ).body as PeerBoard;
    expect(back.reviews.map((r) => r.id).sort()).toEqual(before);
  });

  it('keeps groups apart or sections together, as it is set', async () => {
    const found = await begun(6, { among: 'section', reviewsPerWork: 3, reviewsPerStudent: 3 });
    // The second student is alone in the evening section.
    const alone = found.lines.find((l) => l.enrolmentId === peers.students[1]?.id);
    expect(alone?.owes).toBe(0);
    expect(found.works.find((w) => w.id === alone?.workId)?.isOpenBecause).toBe('3 reviews too few: only 0 students may review it');
    expect(found.lines.filter((l) => l !== alone).map((l) => l.owes)).toEqual([3, 3, 3, 3, 3]);
  });
});

describe('groups that are merged', () => {
  it('gives to others what has become a work of one’s own group, and keeps what is begun or was paired by hand', async () => {
    const sets = `/api/courses/${peers.school.courseId}/group-sets`;
    const ids = peers.students.map((s) => s.id);
    const set = (await teacher().post(sets).send({ title: 'Benches', makes: 'empty', number: 3, withinSections: false }).expect(200)).body
      .groups.sets[0] as GroupSet;
    const put = async (version: number, groups: readonly string[][]) =>
      (
        await teacher()
          .put(`${sets}/${set.id}`)
          .send({
            ...{ version, title: set.title },
            groups: groups.map((enrolmentIds, n) => ({ id: set.groups[n]?.id, title: set.groups[n]?.title, enrolmentIds })),
          })
          .expect(200)
      ).body as { sets: GroupSet[] };
    const first = await put(set.version, [ids.slice(0, 2), ids.slice(2, 4), ids.slice(4)]);
    const before = await begun(6, { among: 'outside group', groupSetId: set.id });
    const groupAt = (merged: boolean, id: string): number => Math.min(Math.floor(ids.indexOf(id) / 2), merged ? 1 : 2) || 0;
    const workOf = new Map(before.works.map((w) => [w.id, w.authors[0] ?? '']));
    const inOne = (b: PeerBoard, merged: boolean) =>
      b.reviews.filter((r) => groupAt(merged, r.reviewerId ?? '') === groupAt(merged, workOf.get(r.workId) ?? ''));
    expect(inOne(before, false)).toEqual([]);
    // The second and third bench become one, so that four people may review two works and two people four.
    await put(first.sets[0]?.version ?? 0, [ids.slice(0, 2), ids.slice(2)]);
    const wrong = inOne(before, true);
    expect(wrong.length).toBeGreaterThan(1);
    const [begunOne, ...rest] = wrong;
    const giver = ids.indexOf(begunOne?.reviewerId ?? '');
    await peers.give(giver, begunOne?.id ?? '', 2);
    const open = await peers.board();
    const few = new Set(rest.map((r) => r.workId));
    expect(open.works.filter((w) => w.isOpenBecause !== null).map((w) => w.id)).toEqual(expect.arrayContaining([...few]));
    const after = await peers.draw();
    expect(inOne(after, true).map((r) => r.id)).toEqual([begunOne?.id]);
    expect(after.works.every((w) => after.reviews.filter((r) => r.workId === w.id).length <= 2)).toBe(true);
  });
});

describe('giving a review', () => {
  it('waits for one’s own work and for the reviews to open', async () => {
    await change();
    expect((await ownPeer(0)).waits).toContain('Hand in your own work first');
    for (const n of peers.students.keys()) await handIn(n);
    expect((await ownPeer(0)).waits).toContain('given out when they are due');
    await draw();
    const [line] = (await ownPeer(0)).owed;
    expect(line?.door).toEqual({ isOpen: false, why: 'not yet', opensAt: START + 2 * DAY });
    await (peers.students[0] as (typeof peers.students)[number]).agent.get(own(`/${line?.id}`)).expect(404);
  });

  it('is saved as it is typed, by version, and handed in once every criterion is judged', async () => {
    await begun();
    const [line] = (await ownPeer(0)).owed;
    const id = line?.id ?? '';
    const { agent } = peers.students[0] as (typeof peers.students)[number];
    const review = await open(0, id);
    const saved = { version: review.version, choices: {}, given: {}, comments: {}, words: 'Half a thought', seconds: 30 };
    await agent
      .put(own(`/${id}`))
      .send(saved)
      .expect(200);
    await agent
      .put(own(`/${id}`))
      .send({ ...saved, words: 'Another thought' })
      .expect(409);
    const refused = await agent
      .post(own(`/${id}/hand-in`))
      .send({ version: 2 })
      .expect(422);
    expect(refused.body.detail).toContain('Not judged yet: “Answers the task”');
    const given = await give(0, id, 2);
    expect([given.state, given.words]).toEqual(['given', 'Some words of my own']);
    // Handed in, it stays whole: nothing of it is emptied.
    const hollow = await agent
      .put(own(`/${id}`))
      .send({ ...saved, version: given.version, words: '' })
      .expect(422);
    expect(hollow.body.detail).toContain('Not judged yet');
    // Until it is due it is changed, and stays handed in; after that it stays as it is.
    expect((await give(0, id, 3)).state).toBe('given');
    peers.school.clock.at = START + 4 * DAY + 1;
    const late = await open(0, id);
    expect(late.door).toEqual({ isOpen: false, why: 'past', opensAt: null });
    await agent
      .put(own(`/${id}`))
      .send({ ...saved, version: late.version })
      .expect(409);
  });

  it('counts the words that are asked for', async () => {
    await begun(6, { leastWords: 5 });
    const [line] = (await ownPeer(0)).owed;
    const { agent } = peers.students[0] as (typeof peers.students)[number];
    const review = await open(0, line?.id ?? '');
    const choices = Object.fromEntries(review.form.criteria.flatMap((c) => (c.levels.length === 0 ? [] : [[c.id, c.levels[1]?.id ?? '']])));
    const last = review.form.criteria.at(-1);
    const send = async (comment: string, version: number) =>
      agent
        .put(own(`/${line?.id}`))
        .send({ version, choices, given: {}, comments: { [last?.id ?? '']: comment }, words: '', seconds: 1 })
        .expect(200);
    await send('Too short', 1);
    const refused = await agent
      .post(own(`/${line?.id}/hand-in`))
      .send({ version: 2 })
      .expect(422);
    expect(refused.body.detail).toBe('“What would help most” has 2 words; at least 5 are asked for.');
    await send('Now there are enough words', 2);
    await agent
      .post(own(`/${line?.id}/hand-in`))
      .send({ version: 3 })
      .expect(200);
  });

  it('holds the dates of one student and the days of an arrangement', async () => {
    await begun(6, {
      takesLateReviews: false,
      otherDates: [{ sectionId: null, enrolmentId: peers.students[0]?.id ?? '', groupId: null, opensAt: null, dueAt: iso(5) }],
    });
    peers.school.clock.at = START + 4.5 * DAY;
    expect((await ownPeer(0)).owed[0]?.door.isOpen).toBe(true);
    expect((await ownPeer(1)).owed[0]).toMatchObject({ state: 'missing', door: { why: 'past' } });
    await sql("insert into arrangement (enrolment_id, extra_days, time_multiplier, reason) values ($1, 2, 1, 'Illness')", [
      peers.students[1]?.id,
    ]);
    expect((await ownPeer(1)).owed[0]?.door.isOpen).toBe(true);
    await sql('delete from arrangement where enrolment_id = $1', [peers.students[1]?.id]);
  });

  it('takes notes at places of the work, changes them and takes them off', async () => {
    await begun();
    const [line] = (await ownPeer(0)).owed;
    const { agent } = peers.students[0] as (typeof peers.students)[number];
    const note = { fileId: null, anchor: { kind: 'text', from: 1, to: 4 }, quote: 'The', body: 'Which one?', version: 0 };
    const noteId = '7d3f2d54-0000-4000-8000-000000000001';
    const put = (more: object) => agent.put(own(`/${line?.id}/notes/${noteId}`)).send({ ...note, ...more });
    expect((await put({}).expect(200)).body.notes).toMatchObject([{ body: 'Which one?', version: 1 }]);
    await put({ body: 'Another?' }).expect(409);
    await put({ anchor: { kind: 'text', from: 1, to: 4000 }, version: 1 }).expect(422);
    expect((await put({ body: '', version: 1 }).expect(200)).body.notes).toEqual([]);
    // It is a note of this review alone.
    const [other] = (await ownPeer(1)).owed;
    await (peers.students[1] as (typeof peers.students)[number]).agent
      .put(own(`/${other?.id}/notes/${noteId}`))
      .send({ ...note, version: 2 })
      .expect(404);
  });
});

describe('a work that is given out', () => {
  it('is not taken back by its author any more; before that it is', async () => {
    await change({ drawing: 'hand' });
    await sql('update assignment set allows_withdrawal = true where item_id = $1', [peers.school.itemId]);
    await handIn(0);
    await handIn(1);
    const back = (n: number) =>
      (peers.students[n] as (typeof peers.students)[number]).agent.delete(
        `/api/courses/${peers.school.courseId}/own/items/${peers.school.itemId}/hand-in`,
      );
    await back(0).expect(200);
    await handIn(0, 'Handed in once more');
    await draw();
    const refused = await back(0).expect(409);
    expect(refused.body.detail).toContain('given out to be reviewed');
  });
});

describe('what is hidden', () => {
  it('is who wrote a work and who reviewed it: no answer to a student tells', async () => {
    await begun();
    await giveAll(() => 2);
    peers.school.clock.at = START + 6 * DAY;
    await doJob(peers.school, givePeerResults);
    for (const n of peers.students.keys()) {
      const mine = await ownPeer(n);
      const told = [JSON.stringify(mine), ...(await Promise.all(mine.owed.map(async (l) => JSON.stringify(await open(n, l.id)))))].join(
        '\n',
      );
      for (const [m, other] of peers.students.entries()) {
        expect(told).not.toContain(other.name);
        expect(told).not.toContain(other.id);
        // Nobody’s minute is told but one’s own.
        if (m !== n) expect(told).not.toContain(`"by":"${other.name}"`);
      }
      expect(mine.received?.map((r) => r.by).sort()).toEqual(['Reviewer 1', 'Reviewer 2']);
    }
  });

  it('is shown in the directions that are set', async () => {
    await begun(6, { showsAuthors: true, showsReviewers: true });
    const titles = (await ownPeer(0)).owed.map((l) => l.title);
    expect(titles.every((t) => peers.students.some((s) => s.name === t))).toBe(true);
    await giveAll(() => 1);
    await teacher().post(at('/results')).expect(200);
    expect((await ownPeer(0)).received?.every((r) => peers.students.some((s) => s.name === r.by))).toBe(true);
  });

  it('is another’s review: not read, not saved, not handed in; nor the board, for students', async () => {
    await begun();
    const theirs = (await ownPeer(1)).owed.map((l) => l.id);
    const [id] = theirs.filter((one) => one !== '');
    const { agent } = peers.students[0] as (typeof peers.students)[number];
    await agent.get(own(`/${id}`)).expect(404);
    await agent
      .put(own(`/${id}`))
      .send({ version: 1, choices: {}, given: {}, comments: {}, words: '', seconds: 0 })
      .expect(404);
    await agent
      .post(own(`/${id}/hand-in`))
      .send({ version: 1 })
      .expect(404);
    await agent.get(at('/board')).expect(403);
    await agent.get(at()).expect(403);
    await peers.school.agents.outsider.get(at('/board')).expect(404);
    await peers.school.agents.nobody.get(own()).expect(401);
  });

  it('is everything received until results are out', async () => {
    await begun();
    await giveAll(() => 2);
    expect(await ownPeer(0)).toMatchObject({ received: null, work: null, reviewing: null });
  });

  it('holds on the board while marks are given without names', async () => {
    await begun();
    await sql("update assignment set anonymous = 'release' where item_id = $1", [peers.school.itemId]);
    const told = JSON.stringify(await board());
    const people = await sql<{ person_id: string }>('select person_id from enrolment where course_id = $1', [peers.school.courseId]);
    for (const { person_id: personId } of people) expect(told).not.toContain(personId);
    for (const s of peers.students) {
      expect(told).not.toContain(s.id);
      expect(told).not.toContain(s.name.split(' ')[0]);
    }
    await sql("update assignment set anonymous = 'none' where item_id = $1", [peers.school.itemId]);
  });

  it('shows an assistant the students of their sections', async () => {
    await begun();
    expect((await board(peers.school.agents.assistant)).lines.map((l) => l.enrolmentId)).not.toContain(peers.students[1]?.id);
    await peers.school.agents.assistant.post(at('/draws')).send({ asksForMore: false, dropsPast: false }).expect(403);
  });
});

describe('results', () => {
  it('come at their time, released, into both columns: what the form gives is taken to the points of the column', async () => {
    await begun();
    await giveAll(() => 2);
    expect(await doJob(peers.school, givePeerResults, START + 5 * DAY)).toBe(0);
    peers.school.clock.at = START + 6 * DAY;
    expect(await doJob(peers.school, givePeerResults)).toBe(1);
    expect(await doJob(peers.school, givePeerResults)).toBe(0);
    // 7 of 10 on each of three criteria, of 60 points: 42. All see the same: 10 of 10.
    for (const n of peers.students.keys()) {
      expect(await gradeOf(n, 'work')).toEqual({ raw: '42.000', is_released: true });
      expect(await gradeOf(n, 'reviewing')).toEqual({ raw: '10.000', is_released: true });
    }
    const mine = await ownPeer(0);
    expect(mine.work?.value).toBe('42 of 60');
    expect(JSON.stringify(mine.reviewing)).toContain('mean nearness to what the others saw');
    const ledger = await sql<{ source: string }>(
      'select distinct e.source from grade_event e join grade_column c on c.id = e.column_id where c.item_id = $1',
      [peers.school.itemId],
    );
    expect(ledger).toEqual([{ source: 'reviews' }]);
  });

  it('show who is far from the rest, and what comes of setting that review aside', async () => {
    const found = await begun(6, { reviewsPerWork: 3, reviewsPerStudent: 3 });
    expect(found.lines.every((l) => l.owes === 3)).toBe(true);
    await giveAll((n) => (n === 2 ? 0 : 2));
    const watched = await board();
    const far = watched.reviews.filter((r) => r.signs.some((s) => s.sign === 'far from the rest'));
    expect(far.map((r) => r.reviewerId)).toEqual([peers.students[2]?.id, peers.students[2]?.id, peers.students[2]?.id]);
    expect(watched.lines.find((l) => l.enrolmentId === peers.students[2]?.id)?.bias).toBeLessThan(0);
    const [hard] = far;
    const work = async (): Promise<PeerWork> =>
      (
        await teacher()
          .get(at(`/works/${hard?.workId}`))
          .expect(200)
      ).body as PeerWork;
    const before = watched.works.find((w) => w.id === hard?.workId);
    expect(before?.mean).toBe(14_000);
    await teacher()
      .put(at(`/reviews/${hard?.id}/aside`))
      .send({ isAside: true, reason: '', keepsCredit: true })
      .expect(422);
    const aside = await teacher()
      .put(at(`/reviews/${hard?.id}/aside`))
      .send({ isAside: true, reason: 'Not read', keepsCredit: false })
      .expect(200);
    const after = (aside.body as PeerBoard).works.find((w) => w.id === hard?.workId);
    expect([after?.value, after?.mean]).toEqual([21_000, 21_000]);
    expect((await work()).reviews.find((r) => r.id === hard?.id)).toMatchObject({
      state: 'set aside',
      setAsideWhy: 'Not read',
      keepsCredit: false,
    });
    await teacher()
      .put(at(`/reviews/${hard?.id}/aside`))
      .send({ isAside: false, reason: '', keepsCredit: true })
      .expect(200);
    expect((await board()).works.find((w) => w.id === hard?.workId)?.mean).toBe(14_000);
  });

  it('follow the teacher’s own assessment, which decides; what is out moves at once, what was typed by hand stays', async () => {
    await begun();
    await giveAll(() => 2);
    peers.school.clock.at = START + 6 * DAY;
    await doJob(peers.school, givePeerResults);
    const found = await board();
    const line = found.lines.find((l) => l.enrolmentId === peers.students[0]?.id);
    const form = (
      (
        await teacher()
          .get(at(`/works/${line?.workId}`))
          .expect(200)
      ).body as PeerWork
    ).form;
    const choices = Object.fromEntries(form.criteria.flatMap((c) => (c.levels.length === 0 ? [] : [[c.id, c.levels[3]?.id ?? '']])));
    const assessment = { version: 0, choices, given: {}, comments: {}, words: 'Better than they saw', isGiven: true };
    const done = await teacher()
      .put(at(`/works/${line?.workId}/own`))
      .send(assessment)
      .expect(200);
    expect(JSON.stringify((done.body as PeerWork).working)).toContain('which decides');
    expect(await gradeOf(0, 'work')).toEqual({ raw: '60.000', is_released: true });
    await teacher()
      .put(at(`/works/${line?.workId}/own`))
      .send({ ...assessment, words: 'Otherwise' })
      .expect(409);
    // As one of three it is (2 × 21 + 30) ÷ 3 = 24 of 30.
    await change({ teacherCounts: 'one' });
    expect((await gradeOf(0, 'work'))?.raw).toBe('48.000');
    const event = await sql<{ last_event_id: string }>('select last_event_id from grade where column_id = $1 and enrolment_id = $2', [
      peers.school.columnId,
      peers.students[1]?.id,
    ]);
    await teacher()
      .put(`/api/courses/${peers.school.courseId}/gradebook/cells`)
      .send({
        columnId: peers.school.columnId,
        enrolmentId: peers.students[1]?.id,
        state: 'scored',
        raw: 12_000,
        seenEventId: event[0]?.last_event_id,
        isAboveConfirmed: false,
        reason: 'Seen at the bench',
      })
      .expect(200);
    await teacher().post(at('/results')).expect(200);
    expect((await gradeOf(1, 'work'))?.raw).toBe('12.000');
  });

  it('say of each reviewer how their bias and weight come out, review by review and by nobody’s name', async () => {
    await begun();
    await giveAll((n) => (n === 2 ? 0 : 3));
    const hard = (
      await teacher()
        .get(at(`/reviewers/${peers.students[2]?.id}`))
        .expect(200)
    ).body as ReviewerWorking;
    expect(hard.traits.map((line) => line.rule.split(',')[0])).toEqual(['Bias', 'Weight']);
    const { agreement } = await board();
    const said = hard.traits[0]?.lines ?? [];
    expect(said.slice(0, 2).map((line) => line.rule)).toEqual(
      [1, 2].map((n) => `Review ${n}: against what the others saw, their own biases out`),
    );
    const number = (n: number): number => Number(said[n]?.value.replace('−', '-').replace(' %', ''));
    expect(number(0)).toBeLessThan(-20);
    // Two reviews of no bias are supposed beside their two.
    expect(Math.abs((number(0) + number(1)) / 4 - number(2))).toBeLessThan(0.2);
    expect(Math.abs(number(2) + number(3) - Number(hard.traits[0]?.value.replace('−', '-').replace(' %', '')))).toBeLessThan(0.2);
    expect(JSON.stringify(hard)).not.toContain('Tester');
    expect(agreement.working.map((line) => line.value)[0]).toBe(agreement.kappa?.toFixed(2).replace('-', '−'));
  });

  it('show what each strictness gives, and move when it changes', async () => {
    await begun(6, { reviewsPerWork: 3, reviewsPerStudent: 3, strictness: 'lax' });
    await giveAll((n) => (n % 3 === 0 ? 1 : 2));
    peers.school.clock.at = START + 6 * DAY;
    await doJob(peers.school, givePeerResults);
    const effects = (await teacher().get(at('/strictness')).expect(200)).body.effects as { strictness: string; mean: number }[];
    expect(effects.map((e) => e.strictness)).toEqual(['strict', 'firm', 'fair', 'mild', 'lax']);
    expect([...effects].map((e) => e.mean)).toEqual([...effects].map((e) => e.mean).sort((a, b) => a - b));
    expect((await gradeOf(0, 'reviewing'))?.raw).toBe('10.000');
    await change({ strictness: 'strict' });
    expect(Number((await gradeOf(0, 'reviewing'))?.raw)).toBeLessThan(10);
  });

  it('take a review under the form it was given by, also when the form was changed since', async () => {
    await begun();
    await giveAll(() => 2);
    const { form } = await readSetting();
    const criteria = (form?.criteria ?? []).map((c) => ({ ...c, levels: c.levels.map((l) => ({ ...l, points: l.points * 2 })) }));
    const changed = await teacher().put(at('/form')).send({ version: form?.version, criteria }).expect(200);
    expect((changed.body as PeerSetting).given).toBe(12);
    await teacher()
      .put(at('/form'))
      .send({ version: form?.version, criteria: criteria.slice(1) })
      .expect(409);
    const found = await board();
    // Each review keeps its share of each criterion: 14 of 20 now.
    expect(found.works.map((w) => w.value)).toEqual(peers.students.map(() => 42_000));
    expect(found.lines.map((l) => l.work)).toEqual(peers.students.map(() => 42_000));
  });

  it('tell when a late review would move what is out, and take it in when asked', async () => {
    await begun();
    const late = (await ownPeer(5)).owed;
    for (const n of [0, 1, 2, 3, 4]) for (const line of (await ownPeer(n)).owed) await give(n, line.id, 2);
    peers.school.clock.at = START + 6 * DAY;
    await doJob(peers.school, givePeerResults);
    expect((await board()).outdated).toBe(0);
    expect((await gradeOf(5, 'reviewing'))?.raw).toBe('0.000');
    for (const line of late) await give(5, line.id, 2);
    expect((await board()).outdated).toBeGreaterThan(0);
    const after = (await teacher().post(at('/results')).expect(200)).body as PeerBoard;
    expect(after.outdated).toBe(0);
    expect((await gradeOf(5, 'reviewing'))?.raw).toBe('10.000');
  });
});

describe('the author', () => {
  it('answers, thanks and reports a review once results are out, and nobody else’s', async () => {
    await begun();
    await giveAll(() => 2);
    await teacher().post(at('/results')).expect(200);
    const [first] = (await ownPeer(0)).received ?? [];
    const to = (id: string | undefined) => `/api/courses/${peers.school.courseId}/items/${peers.school.itemId}/received-reviews/${id}`;
    const answer = { version: 1, answer: 'I had not seen that.', isThanked: true, reportedWhy: 'It is of another work' };
    const { agent } = peers.students[0] as (typeof peers.students)[number];
    const said = await agent.put(to(first?.id)).send(answer).expect(200);
    expect((said.body as OwnPeer).received?.find((r) => r.id === first?.id)).toMatchObject({ isThanked: true, answerVersion: 2 });
    await agent
      .put(to(first?.id))
      .send({ ...answer, answer: 'Another answer' })
      .expect(409);
    const [other] = (await ownPeer(1)).received ?? [];
    await agent.put(to(other?.id)).send(answer).expect(404);
    expect((await board()).reviews.find((r) => r.id === first?.id)?.reportedWhy).toBe('It is of another work');
  });
});

describe('a peer review that goes elsewhere', () => {
  it('is carried into another course with its form, its column and both sets of dates', async () => {
    await change({ reviewsPerWork: 4, reviewsPerStudent: 4, revisionDueAt: iso(8), reviewing: { possible: 7000, categoryId: null } });
    await peers.addSample('To be carried', 3);
    const start = (await teacher().get('/api/course-start').expect(200)).body as { terms: { id: string }[] };
    const made = await teacher()
      .post('/api/courses')
      .send({
        code: 'HOR-9',
        run: 'b',
        title: 'Again',
        termId: start.terms[0]?.id,
        timeZone: 'Europe/Lisbon',
        sections: ['Only'],
        outline: 'empty',
      })
      .expect(200);
    const target = (made.body as { id: string }).id;
    const wish = {
      fromCourseId: peers.school.courseId,
      itemIds: [peers.school.itemId],
      hasDates: true,
      hasPolicy: false,
      weekdays: [],
      again: [],
    };
    const done = await teacher().post(`/api/courses/${target}/carry`).send(wish).expect(200);
    const [copyId] = (done.body as { itemIds: string[] }).itemIds;
    const copy = (await teacher().get(`/api/courses/${target}/items/${copyId}/peer`).expect(200)).body as PeerSetting;
    expect(copy.setting).toMatchObject({
      isOn: true,
      reviewsPerWork: 4,
      reviewsDueAt: iso(4),
      resultsAt: iso(6),
      reviewing: { possible: 7000 },
    });
    expect(copy.form?.criteria.map((c) => c.title)).toEqual((await readSetting()).form?.criteria.map((c) => c.title));
    expect([copy.drawnAt, copy.given, copy.setting.revisionDueAt]).toEqual([null, 0, iso(8)]);
    // A sample work comes along assessed, by the criteria of the form that came with it.
    const assessed = (setting: PeerSetting) => setting.samples.map((s) => [s.title, s.wordCount, s.unjudged]);
    expect(assessed(copy)).toEqual([['Practice', 3, []]]);

    const archive = await teacher()
      .get(`/api/courses/${peers.school.courseId}/archive`)
      .buffer(true)
      .parse((response, give) => {
        const parts: Buffer[] = [];
        response.on('data', (part: Buffer) => parts.push(part));
        response.on('end', () => {
          give(null, Buffer.concat(parts));
        });
      })
      .expect(200);
    const third = await teacher()
      .post('/api/courses')
      .send({
        code: 'HOR-9',
        run: 'c',
        title: 'Once more',
        termId: start.terms[0]?.id,
        timeZone: 'Europe/Lisbon',
        sections: ['Only'],
        outline: 'empty',
      })
      .expect(200);
    const into = (third.body as { id: string }).id;
    await teacher()
      .post(`/api/courses/${into}/archive`)
      .attach('file', archive.body as Buffer, 'course.zip')
      .expect(200);
    const { units } = (await teacher().get(`/api/courses/${into}/plan`).expect(200)).body as {
      units: { items: { id: string; title: string }[] }[];
    };
    const brought = units.flatMap((u) => u.items).find((i) => i.title === 'Report')?.id ?? '';
    const back = (await teacher().get(`/api/courses/${into}/items/${brought}/peer`).expect(200)).body as PeerSetting;
    expect(back.setting).toMatchObject({ isOn: true, reviewsPerWork: 4, reviewsDueAt: iso(4), reviewing: { possible: 7000 } });
    expect(assessed(back)).toEqual([['Practice', 3, []]]);
    expect(back.form?.criteria.map((c) => [c.title, c.levels.map((l) => l.points)])).toEqual(
      copy.form?.criteria.map((c) => [c.title, c.levels.map((l) => l.points)]),
    );
  });

  it('stands in the calendar with the day its reviews are due, for each by the dates that hold for them', async () => {
    await change({
      otherDates: [{ sectionId: null, enrolmentId: peers.students[0]?.id ?? '', groupId: null, opensAt: null, dueAt: iso(5) }],
    });
    const dueFor = async (who: Agent): Promise<string[]> => {
      const view = (await who.get(`/api/courses/${peers.school.courseId}/calendar`).expect(200)).body as {
        entries: { title: string; at: string }[];
      };
      return view.entries.filter((e) => e.title === 'Report: reviews').map((e) => e.at);
    };
    expect(await dueFor(teacher())).toEqual([iso(4)]);
    expect(await dueFor(peers.school.agents.student)).toEqual([iso(5)]);
    expect(await dueFor(peers.school.agents.second)).toEqual([iso(4)]);
  });

  it('leaves no work of its item waiting for a marker', async () => {
    await handIn(0);
    const waits = async (): Promise<number | undefined> => {
      const list = (await teacher().get(`/api/courses/${peers.school.courseId}/marking`).expect(200)).body as {
        items: { id: string; waits: number }[];
      };
      return list.items.find((i) => i.id === peers.school.itemId)?.waits;
    };
    expect(await waits()).toBe(1);
    await change();
    expect(await waits()).toBeUndefined();
    await change({ workFrom: 'teacher' });
    expect(await waits()).toBe(1);
  });
});
