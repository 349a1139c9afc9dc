import type { CourseSettings, ProgressShown, SettingsChange } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import { decimalText, formatPoints, thousandthsOf } from '@rosemary/core';
import { IANAZone } from 'luxon';
import { type Db, maybe, run } from '../platform/database.ts';
import { conflict, invalid, notFound } from '../platform/errors.ts';
import { getTerm } from '../term/index.ts';
import { listJoined, listSectionSettings } from './sectionSettings.ts';
import { isoOf } from '../platform/instants.ts';

export interface Row {
  code: string;
  run: string;
  title: string;
  short_title: string;
  description: string;
  time_zone: string;
  progress_by: 'items' | 'minutes';
  progress_shows: ProgressShown;
  reached_percent: string;
  merit_percent: string;
  language: string;
  pacing: 'term' | 'self';
  picture_file_id: string | null;
  picture_alt: string;
  is_public: boolean;
  enrols_from: Date | null;
  enrols_until: Date | null;
  version: number;
}

export async function getRow(db: Db, courseId: string): Promise<Row> {
  const row = await maybe<Row>(
    db,
    'select code, run, title, short_title, description, time_zone, progress_by, progress_shows, reached_percent, merit_percent, language, pacing, picture_file_id, picture_alt, is_public, enrols_from, enrols_until, version from course where id = $1',
    [courseId],
  );
  if (row === null) throw notFound();
  return row;
}

export async function getSettings(db: Db, courseId: string): Promise<CourseSettings> {
  const row = await getRow(db, courseId);
  const { term } = await getTerm(db, courseId);
  return {
    code: row.code,
    run: row.run,
    term,
    title: row.title,
    shortTitle: row.short_title,
    description: row.description,
    timeZone: row.time_zone,
    language: row.language,
    pacing: row.pacing,
    picture:
      row.picture_file_id === null
        ? null
        : { fileId: row.picture_file_id, src: urlOf(api.getFile, { courseId, fileId: row.picture_file_id }), alt: row.picture_alt },
    progressBy: row.progress_by,
    progressShows: row.progress_shows,
    reachedPercent: thousandthsOf(row.reached_percent),
    meritPercent: thousandthsOf(row.merit_percent),
    isPublic: row.is_public,
    enrolsFrom: isoOf(row.enrols_from),
    enrolsUntil: isoOf(row.enrols_until),
    version: row.version,
    sections: await listSectionSettings(db, courseId),
    joined: await listJoined(db, courseId),
  };
}

/** A language as the standard writes it; what is none is refused. */
function languageOf(text: string): string {
  try {
    const [known] = Intl.getCanonicalLocales(text);
    if (known !== undefined && new Intl.DisplayNames('en', { type: 'language', fallback: 'none' }).of(known) !== undefined) return known;
  } catch {
    // Said below, as for one that is written well and is none.
  }
  throw invalid('language', `“${text}” is no language. It is written like en, de or pt-PT.`);
}

async function requirePicture(db: Db, courseId: string, fileId: string | null): Promise<void> {
  if (fileId === null) return;
  const file = await maybe<{ media_type: string }>(
    db,
    'select b.media_type from file f join file_blob b on b.sha256 = f.sha256 where f.id = $1 and f.course_id = $2 and f.is_kept and f.removed_at is null',
    [fileId, courseId],
  );
  if (file === null) throw invalid('pictureFileId', 'This picture is no longer in the course. Choose another.');
  if (!file.media_type.startsWith('image/')) throw invalid('pictureFileId', 'The picture of a course is a picture: PNG, JPEG or WebP.');
}

/** Changes the fields named. Code and run are fixed: they stand in addresses. */
export async function changeSettings(db: Db, courseId: string, change: SettingsChange): Promise<CourseSettings> {
  const before = await getSettings(db, courseId);
  if (before.version !== change.version) throw conflict(before);
  const next = { ...before, pictureFileId: before.picture?.fileId ?? null, pictureAlt: before.picture?.alt ?? '', ...change };
  const language = languageOf(next.language);
  await requirePicture(db, courseId, next.pictureFileId);
  if (!IANAZone.isValidZone(next.timeZone))
    throw invalid('timeZone', `“${next.timeZone}” is not a time zone. It is written like Europe/Lisbon.`);
  if (next.enrolsFrom !== null && next.enrolsUntil !== null && Date.parse(next.enrolsUntil) <= Date.parse(next.enrolsFrom))
    throw invalid('enrolsUntil', 'Enrolment ends before it begins. Set a later end or an earlier beginning.');
  if (next.reachedPercent > next.meritPercent)
    throw invalid(
      change.meritPercent === undefined ? 'reachedPercent' : 'meritPercent',
      `With merit begins at ${formatPoints(next.meritPercent)} %, and reached at ${formatPoints(next.reachedPercent)} %. Reached cannot ask for more.`,
    );
  await run(
    db,
    `
    update course set title = $2, short_title = $3, description = $4, time_zone = $5, progress_by = $6, is_public = $7, enrols_from = $8, enrols_until = $9,
      language = $10, pacing = $11, picture_file_id = $12, picture_alt = $13, progress_shows = $14, reached_percent = $15, merit_percent = $16, version = version + 1 where id = $1`,
    [
      courseId,
      next.title,
      next.shortTitle,
      next.description,
      next.timeZone,
      next.progressBy,
      next.isPublic,
      next.enrolsFrom,
      next.enrolsUntil,
      language,
      next.pacing,
      next.pictureFileId,
      next.pictureFileId === null ? '' : next.pictureAlt,
      next.progressShows,
      decimalText(next.reachedPercent),
      decimalText(next.meritPercent),
    ],
  );
  return getSettings(db, courseId);
}
