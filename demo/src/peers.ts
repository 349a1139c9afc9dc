import type { PeerChange } from '@rosemary/api';
import {
  addSample,
  changeItem,
  drawPeers,
  getPlanItem,
  getSample,
  getPeerSetting,
  handInReview,
  readPeer,
  readReviewing,
  recordPeerResults,
  type Reviewing,
  rows,
  saveClosing,
  saveOwnLeave,
  saveReview,
  savePeer,
  saveSample,
  showWork,
} from '@rosemary/server';
import type { Adding } from './adding.ts';
import { addWork, handInText, memberOf, present } from './evening.ts';
import { seeded, type Random } from './random.ts';
import type { Enrolled } from './school.ts';

const HOUR = 3_600_000;
type Day = readonly [week: number, weekday: number, time: string];

/** What students write to one another, put together of short pieces, so that no two write alike. */
const THINGS = [
  ...['The order', 'Your list', 'The first step', 'The test', 'The record', 'The cleaning', 'The barrel', 'Your sketch', 'The reasoning'],
  ...['The dial', 'The escapement', 'Your second page', 'The last part', 'The price', 'The train', 'What you measure', 'The regulation'],
];
/** By how good they find the work: from the least to the most. */
const FINDINGS: readonly (readonly string[])[] = [
  ['leaves me unsure', 'skips too much', 'has no reason', 'is only named', 'stops too early', 'cannot be followed', 'I had to guess'],
  [
    'is nearly there',
    'needs one number',
    'begins well',
    'wants a reason',
    'is half said',
    'jumps once',
    'I read twice',
    'could be shorter',
  ],
  ['holds together', 'answers the task', 'reads well', 'has its reasons', 'would work', 'is well weighed', 'I could follow', 'is honest'],
  ['taught me something', 'I would copy', 'is beyond question', 'leaves nothing out', 'is a pleasure', 'convinces at once', 'I envy'],
];
const HOW = [
  'on paper',
  'at first',
  'in places',
  'by hand',
  'for now',
  'this time',
  'to me',
  'as it stands',
  'from here',
  'all told',
  'so far',
];
const ADVICE = ['Add', 'Say more of', 'Think again about', 'Keep', 'Put first', 'Draw', 'Measure', 'Name', 'Explain', 'Shorten'];
const PARTS = [
  ...['the balance', 'the pallets', 'the oil', 'the spring', 'the limits', 'one figure', 'each pivot', 'the hairline', 'your doubt'],
  ...['the two hours', 'the photographs', 'the back cock', 'the client', 'the tools', 'what stays', 'the click', 'the fourth wheel'],
];

function wordsOn(level: number, random: Random): string {
  const found = FINDINGS[level] ?? [];
  const sentence = (): string => `${random.pick(THINGS)} ${random.pick(found)} ${random.pick(HOW)}.`;
  const advice = (): string => `${random.pick(ADVICE)} ${random.pick(PARTS)}${random.chance(0.5) ? ` and ${random.pick(PARTS)}` : ''}.`;
  return [sentence(), advice(), random.chance(0.6) ? sentence() : advice(), random.chance(0.3) ? advice() : ''].join(' ').trim();
}
const OPENINGS = [
  'Lever watch, 1890s, enamel dial with a hairline at four. It runs for a minute and stops dial down.',
  'Bracket clock with a verge, converted at some time. The back cock is not the first one.',
  'Wrist watch of the forties, fifteen jewels. The rate is fast by four minutes and the amplitude is low.',
  'Carriage clock, platform escapement, the strike behind by one. Oil has run down the front plate.',
] as const;
const STEPS = [
  'First I would take the rate in six positions and photograph everything, before anything is loosened.',
  'The mainspring comes out before the train is lifted. Pivots are looked at under the glass, each bush is tried with its pivot.',
  'What is worn is polished as little as it needs. The converted part stays, and the record says so.',
  'Two hours for the movement, half an hour for the case, a week on test.',
] as const;

const plan = (random: Random): readonly string[] => [OPENINGS[random.whole(0, 3)] ?? '', ...STEPS.slice(0, random.whole(2, 4))];

interface Asked {
  readonly title: string;
  readonly after: string;
  readonly points: number;
  readonly due: Day;
  readonly task: string;
  readonly peer: Partial<PeerChange>;
}

async function ask(a: Adding, asked: Asked): Promise<string> {
  const id = await addWork(a, {
    ...{ title: asked.title, after: asked.after, points: asked.points, marking: 0, due: asked.due, category: 'Exercises' },
    ...{ task: asked.task, setting: {}, opens: [3, 1, '08:00'] },
  });
  const { db, built } = a;
  // It is for practice: nobody’s grade rests on it.
  const { version } = await getPlanItem(db, built.courseId, id, built.calendar.now);
  await changeItem(db, built.courseId, id, { version, counts: false }, built.calendar.now);
  const { setting } = await getPeerSetting(db, built.courseId, id, built.calendar.now);
  await savePeer(db, built.courseId, id, { ...setting, isOn: true, ...asked.peer }, built.calendar.now);
  return id;
}

/** What somebody sees in works: nearly the same as the others, harder or milder by habit. */
const leanOf = (student: Enrolled): number => ((student.givenName.length * 7 + student.familyName.length * 3) % 5) - 2;

interface Giving {
  readonly itemId: string;
  readonly student: Enrolled;
  readonly at: number;
  readonly quality: ReadonlyMap<string, number>;
  readonly random: Random;
  /** Gives the lowest level everywhere, in less than a minute. */
  readonly isHasty?: boolean;
}

async function give(a: Adding, giving: Giving): Promise<void> {
  const { db, built } = a;
  const { itemId, student, at, quality, random } = giving;
  const member = memberOf(built, student);
  const read = (): Promise<Reviewing> => readReviewing(db, built.courseId, itemId, member, at);
  const { form } = await getPeerSetting(db, built.courseId, itemId, built.calendar.now);
  const { own } = await read();
  // By whose work it is, so that it is the same at every start.
  const ordered = await rows<{ id: string }>(
    db,
    'select r.id from review r join submission s on s.id = r.submission_id join enrolment e on e.id = s.enrolment_id join person p on p.id = e.person_id where r.id = any($1) order by p.email',
    [own.map((r) => r.id)],
  );
  for (const { id } of ordered) {
    const review = own.find((r) => r.id === id);
    if (review === undefined) continue;
    const seen = (quality.get(review.workId) ?? 2) + leanOf(student) * 0.15 + (random.next() - 0.5) * 0.7;
    const level = giving.isHasty === true ? 0 : Math.min(3, Math.max(0, Math.round(seen)));
    const choices = Object.fromEntries(
      (form?.criteria ?? []).flatMap((c) => {
        const own = c.levels[Math.min(c.levels.length - 1, Math.max(0, level + (giving.isHasty !== true && random.chance(0.15) ? 1 : 0)))];
        return own === undefined ? [] : [[c.id, own.id]];
      }),
    );
    const last = form?.criteria.find((c) => c.form === 'comment');
    const words = giving.isHasty === true ? 'Not good.' : wordsOn(level, random);
    const content = { choices, given: {}, comments: last === undefined ? {} : { [last.id]: words }, words: '' };
    const seconds = giving.isHasty === true ? 40 : random.whole(300, 1500);
    const saved = await saveReview(db, await read(), review.id, { ...content, version: review.version, seconds }, at);
    await handInReview(db, await read(), review.id, saved.version, at + 60_000);
  }
}

async function qualityOf(a: Adding, itemId: string, random: Random): Promise<ReadonlyMap<string, number>> {
  const found = await rows<{ id: string }>(
    a.db,
    'select s.id from submission s join enrolment e on e.id = s.enrolment_id join person p on p.id = e.person_id where s.item_id = $1 order by p.email',
    [itemId],
  );
  return new Map(found.map(({ id }) => [id, 1 + random.next() * 2]));
}

interface SampleWork {
  readonly title: string;
  readonly text: readonly string[];
  /** The level of each criterion, from the lowest, and the words on the last, which is in words alone. */
  readonly levels: readonly number[];
  readonly words: string;
}
const PLAN_SAMPLES: readonly SampleWork[] = [
  {
    title: 'A short plan',
    text: [
      'Alarm clock of the thirties, stopped. The mainspring is sound. I would take it apart, clean all of it and oil it.',
      'If it does not run then I would look for the fault.',
    ],
    levels: [1, 0, 2],
    words: 'It says what is done but not why: nothing was measured before the clock is taken apart, so nobody will know what stopped it.',
  },
];
const OIL_SAMPLES: readonly SampleWork[] = [
  {
    title: 'Two oils for a carriage clock',
    text: [
      'Platform escapement: the lightest oil on both balance jewels, a trace on the pallet stones, none on the pivots of the lever.',
      'Train: a clock oil on every pivot, less towards the escapement. Mainspring: a grease that stays where it is put.',
      'The lever pivots stay dry because they turn by a few degrees: oil there only drags.',
    ],
    levels: [3, 2, 2],
    words: 'Every place is named and most have their reason. Say also why the train oil gets less towards the escapement.',
  },
  {
    title: 'One oil for everything',
    text: ['I would use a good synthetic oil for the whole movement. It does not run and lasts for years, so it is the best choice.'],
    levels: [1, 1, 2],
    words: 'The claim is clear, the reasons are not of this movement: what a balance jewel needs would starve a barrel arbor.',
  },
];

/** Sample works of a peer review, each assessed by the teacher. */
async function addSamples(a: Adding, itemId: string, samples: readonly SampleWork[]): Promise<void> {
  const { db, built } = a;
  const { form } = await getPeerSetting(db, built.courseId, itemId, built.calendar.now);
  const criteria = form?.criteria ?? [];
  for (const [n, { title, text, levels, words }] of samples.entries()) {
    const document = { type: 'doc', content: text.map((line) => ({ type: 'paragraph', content: [{ type: 'text', text: line }] })) };
    const id = await addSample(db, built.courseId, itemId, title, document, null, built.calendar.at(4, 1, '09:00') + n * HOUR);
    const choices = Object.fromEntries(
      criteria.flatMap((c, at) => {
        const level = c.levels[levels[at] ?? -1];
        return level === undefined ? [] : [[c.id, level.id]];
      }),
    );
    const last = criteria.find((c) => c.form === 'comment');
    const { version } = await getSample(db, itemId, id);
    const comments = last === undefined ? {} : { [last.id]: words };
    await saveSample(db, built.courseId, itemId, id, { version, title, document, choices, given: {}, comments, words: '' });
  }
}

/** What comes after the results: leave of those who gave it, one work that is shown, and a closing word. */
async function addAfter(a: Adding, itemId: string, here: readonly Enrolled[], at: number): Promise<void> {
  const { db, built, teacherId } = a;
  for (const [n, student] of here.slice(0, 8).entries()) {
    const leave = { version: 0, toClass: n % 3 === 0 ? ('with name' as const) : ('without name' as const), toLater: n % 2 === 0 };
    await saveOwnLeave(db, itemId, memberOf(built, student).enrolmentId, leave, at);
  }
  const facts = await readPeer(db, built.courseId, itemId, at);
  const work = facts.workOf.get(memberOf(built, here[1] ?? here[0]!).enrolmentId);
  const words = 'Look at how each step names what it would tell: one could stop after any of them and still know more than before.';
  if (work !== undefined) await showWork(db, facts, work.id, { isShown: true, isNamed: false, saysLeave: false, words }, teacherId, at);
  const said =
    'Most of you plan the cleaning well. What was missing most often is the test at the end: how will you know that it is mended?';
  const document = { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: said }] }] };
  await saveClosing(db, built.courseId, itemId, { version: 1, document });
}

/** Three peer reviews of a course: one with its results, one of which the reviews are due on Friday, and one that is being set up. */
export async function addPeers(a: Adding): Promise<void> {
  const random = seeded(20_262_101);
  const { db, built, teacherId } = a;
  const { calendar } = built;
  const iso = (day: Day): string => new Date(calendar.at(...day)).toISOString();
  const here = present(built);
  const task =
    'Write a plan that somebody else could work from: what you find, what you would do, in which order, and what you would leave alone.';

  const done = await ask(a, {
    ...{ title: 'A plan for a stopped lever', after: 'A rate in five days', points: 30, due: [5, 4, '18:00'], task },
    peer: { reviewsDueAt: iso([6, 4, '18:00']), resultsAt: iso([7, 1, '08:00']), reviewing: { possible: 10_000, categoryId: null } },
  });
  for (const student of here)
    await handInText(db, built, student, done, plan(random), calendar.at(5, 4, '18:00') - random.whole(1, 60) * HOUR);
  await drawPeers(db, built.courseId, done, { asksForMore: false, dropsPast: false }, calendar.at(5, 4, '18:01'), 'demo');
  const ofDone = await qualityOf(a, done, random);
  for (const student of here)
    await give(a, { ...{ itemId: done, student, quality: ofDone, random }, at: calendar.at(6, 4, '18:00') - random.whole(2, 90) * HOUR });
  const results = calendar.at(7, 1, '08:00');
  await recordPeerResults(db, built.courseId, await readPeer(db, built.courseId, done, results), teacherId, results);
  await addSamples(a, done, PLAN_SAMPLES);
  await addAfter(a, done, here, calendar.at(7, 1, '16:00'));

  const now = await ask(a, {
    ...{ title: 'Restoration plan', after: 'Error budget', points: 40, due: [9, 1, '12:00'], task },
    peer: { reviewsDueAt: iso([9, 5, '18:00']), resultsAt: iso([10, 1, '08:00']), reviewing: { possible: 10_000, categoryId: null } },
  });
  const late = here.slice(0, 3);
  for (const student of here.slice(3))
    await handInText(db, built, student, now, plan(random), calendar.at(9, 1, '12:00') - random.whole(1, 48) * HOUR);
  await drawPeers(db, built.courseId, now, { asksForMore: false, dropsPast: false }, calendar.at(9, 1, '12:01'), 'demo');
  for (const [n, student] of late.entries()) await handInText(db, built, student, now, plan(random), calendar.at(9, 1, '17:00') + n * HOUR);
  await drawPeers(db, built.courseId, now, { asksForMore: false, dropsPast: false }, calendar.at(9, 1, '21:00'), 'demo');
  const ofNow = await qualityOf(a, now, random);
  // The three who were late, and two more, have given none yet.
  for (const [n, student] of here.slice(5).entries())
    await give(a, {
      ...{ itemId: now, student, quality: ofNow, random, isHasty: n === 8 },
      at: calendar.at(9, 2, '09:00') + random.whole(0, 20) * HOUR,
    });

  const oils = await ask(a, {
    ...{
      title: 'Which oil, and why',
      after: 'Restoration plan',
      points: 20,
      due: [12, 2, '18:00'],
      task: 'Choose the oils for a movement of your own and give the reason for each.',
    },
    peer: {
      samples: 'before',
      among: 'outside group',
      reviewsDueAt: iso([13, 2, '18:00']),
      ownWork: 'last',
      reviewing: { possible: 5000, categoryId: null },
    },
  });
  await addSamples(a, oils, OIL_SAMPLES);
}
