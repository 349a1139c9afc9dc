import {
  countedMatches,
  coverageOf,
  findMatches,
  plainText,
  prepareText,
  PrintIndex,
  USUAL_NET,
  type DocumentNode,
  type PreparedText,
  type SourceMatch,
} from '@rosemary/core';
import type { MatchSetting } from '@rosemary/api';
import { maybe, rows, run, type Db } from '../platform/database.ts';
import { jobInSteps, type Work } from '../platform/jobs.ts';
import { joinCollection, searchCollection, type CollectionDocument } from './collection.ts';
import { findMatchSetting } from './setting.ts';
import { attemptText } from './workText.ts';

interface AttemptRow {
  id: string;
  lead: string;
  document: DocumentNode | null;
}

/** The latest attempt of each work of an item; a group's once. */
const listLatest = (db: Db, itemIds: readonly string[]): Promise<AttemptRow[]> =>
  rows<AttemptRow>(
    db,
    `select distinct on (lead) id, lead, document from (
       select distinct on (a.submission_id) a.id, coalesce(a.lead_id, a.id) as lead, a.document from attempt a join submission s on s.id = a.submission_id join enrolment e on e.id = s.enrolment_id
       where s.item_id = any($1) and not e.is_sample order by a.submission_id, a.number desc) latest order by lead, id = lead desc, id`,
    [itemIds],
  );

/** The items this one was carried forward from, term after term. */
async function listEarlier(db: Db, itemId: string): Promise<string[]> {
  const found = await rows<{ id: string }>(
    db,
    `with recursive back as (
       select source_item_id as id from item where id = $1 and source_item_id is not null
       union select i.source_item_id from item i join back on back.id = i.id where i.source_item_id is not null)
     select id from back`,
    [itemId],
  );
  return found.map((row) => row.id);
}

/** Lets others have their turn between two works: a long comparison holds nobody up. */
const breathe = (): Promise<void> =>
  new Promise((done) => {
    setImmediate(done);
  });

async function prepareAll(db: Db, attempts: readonly AttemptRow[]): Promise<PreparedText[]> {
  const prepared: PreparedText[] = [];
  for (const attempt of attempts) {
    prepared.push(prepareText(attempt.id, await attemptText(db, attempt.id, attempt.document), USUAL_NET));
    await breathe();
  }
  return prepared;
}

interface Found {
  readonly kind: 'class' | 'earlier' | 'collection';
  readonly match: SourceMatch;
  readonly source: PreparedText;
  readonly title: string;
}

/** What is found, less what is only quotation or task. */
function evidence(text: PreparedText, found: readonly Found[], task: readonly SourceMatch[], leaves: boolean): Found[] {
  return found.flatMap((f) => countedMatches(text, [f.match], task, leaves, USUAL_NET).map((match) => ({ ...f, match })));
}

/** Runs as places in the two texts, so that they can be shown without taking them apart again. */
const placesOf = (text: PreparedText, found: Found): number[][] =>
  found.match.runs.map((r) => [
    text.words[r.from]?.from ?? 0,
    text.words[r.to - 1]?.to ?? 0,
    found.source.words[r.sourceFrom]?.from ?? 0,
    found.source.words[r.sourceFrom + r.to - r.from - 1]?.to ?? 0,
  ]);

async function saveWork(
  db: Db,
  runId: string,
  text: PreparedText,
  found: readonly Found[],
  task: readonly SourceMatch[],
  leaves: boolean,
): Promise<void> {
  const coverage = coverageOf(
    text,
    found.map((f) => f.match),
    task,
    leaves,
  );
  await run(db, 'insert into match_result (run_id, attempt_id, counted, matched, quoted, of_task) values ($1, $2, $3, $4, $5, $6)', [
    ...[runId, text.id, coverage.counted, coverage.matched, coverage.quoted, coverage.ofTask],
  ]);
  const kept = [...found].sort((a, b) => b.match.words - a.match.words).slice(0, 20);
  await run(
    db,
    `insert into match_source (run_id, attempt_id, position, kind, source_attempt_id, document_id, title, words, runs)
     select $1, $2, * from unnest($3::int[], $4::text[], $5::uuid[], $6::text[], $7::text[], $8::int[], $9::jsonb[])`,
    [
      ...[runId, text.id, kept.map((_, n) => n), kept.map((f) => f.kind)],
      kept.map((f) => (f.kind === 'collection' ? null : f.match.sourceId)),
      kept.map((f) => (f.kind === 'collection' ? f.match.sourceId : '')),
      ...[kept.map((f) => f.title), kept.map((f) => f.match.words), kept.map((f) => JSON.stringify(placesOf(text, f)))],
    ],
  );
}

interface Corpus {
  readonly works: readonly PreparedText[];
  readonly index: PrintIndex;
  readonly earlierIds: ReadonlySet<string>;
}

async function readCorpus(db: Db, itemId: string, setting: MatchSetting): Promise<Corpus> {
  const works = await prepareAll(db, await listLatest(db, [itemId]));
  const earlier = setting.looksAtEarlier ? await prepareAll(db, await listLatest(db, await listEarlier(db, itemId))) : [];
  const index = new PrintIndex();
  if (setting.looksAtClass) for (const text of works) index.add(text);
  for (const text of earlier) index.add(text);
  return { works, index, earlierIds: new Set(earlier.map((t) => t.id)) };
}

/** What a work shares with the collection; null where it does not answer. */
async function matchCollection(url: string, text: PreparedText, raw: string): Promise<Found[] | null> {
  const documents = await searchCollection(url, raw);
  if (documents === null) return null;
  const index = new PrintIndex();
  const byId = new Map<string, { document: CollectionDocument; prepared: PreparedText }>();
  for (const document of documents.filter((d) => d.id !== text.id)) {
    const prepared = prepareText(document.id, document.text, USUAL_NET);
    byId.set(document.id, { document, prepared });
    index.add(prepared);
  }
  return findMatches(text, index, USUAL_NET).flatMap((match) => {
    const known = byId.get(match.sourceId);
    return known === undefined ? [] : [{ kind: 'collection' as const, match, source: known.prepared, title: known.document.title }];
  });
}

interface RunRow {
  id: string;
  item_id: string;
  title: string;
  instructions: DocumentNode | null;
}

interface Matched {
  readonly text: PreparedText;
  readonly found: readonly Found[];
  readonly task: readonly SourceMatch[];
}

/** Compares the works of an item. Each read is one of its own, and the collection is asked while nothing of the database is held. */
async function matchItem(
  read: Work['read'],
  wanted: RunRow,
  collectionUrl: string | null,
): Promise<{ matched: readonly Matched[]; leaves: boolean; said: string }> {
  const setting = await read((db) => findMatchSetting(db, wanted.item_id));
  const { works, index, earlierIds } = await read((db) => readCorpus(db, wanted.item_id, setting));
  const matched: Matched[] = [];
  const byId = new Map(index.texts.map((t) => [t.id, t]));
  const taskIndex = new PrintIndex();
  taskIndex.add(prepareText('task', plainText(wanted.instructions), USUAL_NET));
  const isAsked = setting.looksAtCollection && collectionUrl !== null;
  let isAway = setting.looksAtCollection && collectionUrl === null;
  for (const text of works) {
    const found: Found[] = findMatches(text, index, USUAL_NET).flatMap((match) => {
      const source = byId.get(match.sourceId);
      if (source === undefined) return [];
      return [{ kind: earlierIds.has(match.sourceId) ? ('earlier' as const) : ('class' as const), match, source, title: '' }];
    });
    const raw = isAsked || setting.joinsCollection ? await read((db) => rawText(db, text.id)) : '';
    if (isAsked && !isAway) {
      const more = await matchCollection(collectionUrl, text, raw);
      if (more === null) isAway = true;
      else found.push(...more);
    }
    const task = findMatches(text, taskIndex, USUAL_NET);
    matched.push({ text, found: evidence(text, found, task, setting.leavesQuotations), task });
    if (setting.joinsCollection && collectionUrl !== null && !isAway)
      isAway = !(await joinCollection(collectionUrl, { id: text.id, title: `Handed in for “${wanted.title}”`, text: raw }));
    await breathe();
  }
  return {
    matched,
    leaves: setting.leavesQuotations,
    said: isAway ? 'The collection did not answer, so it was not looked at, or not for all works. Run it again later.' : '',
  };
}

async function rawText(db: Db, attemptId: string): Promise<string> {
  const row = await maybe<{ document: DocumentNode | null }>(db, 'select document from attempt where id = $1', [attemptId]);
  return attemptText(db, attemptId, row?.document ?? null);
}

const listWanted = (db: Db): Promise<RunRow[]> =>
  rows<RunRow>(
    db,
    `select r.id, r.item_id, i.title, a.instructions from match_run r join item i on i.id = r.item_id left join assignment a on a.item_id = i.id
     where r.ended_at is null order by r.asked_at`,
  );

/** Does one run: what it found is written together at its end, and what an earlier run found goes. One that broke off is done afresh. */
async function runOne(
  { read, write }: Work,
  wanted: RunRow,
  now: number,
  collectionUrl: string | null = process.env.ROSEMARY_COLLECTION_URL ?? null,
): Promise<void> {
  const { matched, leaves, said } = await matchItem(read, wanted, collectionUrl);
  await write(async (db) => {
    const waits = await maybe(db, 'select 1 as one from match_run where id = $1 and ended_at is null for update', [wanted.id]);
    if (waits === null) return;
    for (const { text, found, task } of matched) await saveWork(db, wanted.id, text, found, task, leaves);
    await run(db, 'update match_run set ended_at = to_timestamp($2 / 1000.0), works = $3, said = $4 where id = $1', [
      wanted.id,
      now,
      matched.length,
      said,
    ]);
    await run(db, 'delete from match_run where item_id = $1 and id <> $2 and ended_at is not null', [wanted.item_id, wanted.id]);
  });
}

/** Does every run of text matching that is asked for and not ended. */
export const matchTexts = jobInSteps<RunRow>({
  name: 'match-texts',
  isRisky: true,
  due: listWanted,
  one: runOne,
});

/** The same within a transaction that is there already: for whoever lays out a school. */
export async function runMatching(db: Db, now: number, collectionUrl: string | null): Promise<void> {
  const work: Work = { read: (one) => one(db), write: (one) => one(db) };
  for (const wanted of await listWanted(db)) await runOne(work, wanted, now, collectionUrl);
}
