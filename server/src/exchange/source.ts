import {
  type Archive,
  archiveItem,
  type ArchiveItem,
  archiveQuestion,
  type ArchiveQuestion,
  archive as archiveSchema,
  validationOptions,
} from '@rosemary/api';
import { MANIFEST } from '@rosemary/core';
import { type Zip } from '../files/index.ts';
import { MOST_ARRIVING_BYTES } from '../platform/arrival.ts';
import { AppError, invalid } from '../platform/errors.ts';
import { readCartridge } from './cartridgeIn.ts';
import type { Source } from './packageRead.ts';

const MOST_JSON = 52_428_800;

async function readJson(zip: Zip): Promise<Archive> {
  let json: unknown;
  try {
    json = JSON.parse(await zip.readText('course.json', MOST_JSON));
  } catch (error) {
    if (error instanceof AppError) throw error;
    throw invalid('file', 'The course.json of this archive breaks off or is no JSON. Export the course again.');
  }
  const { error, value } = archiveSchema.validate(json, validationOptions);
  if (error !== undefined) {
    const said = error.details.slice(0, 3).map((d) => `${d.path.join('.')}: ${d.message}`);
    throw invalid('file', `The archive is not as it should be: ${said.join(' ')}`);
  }
  return value as Archive;
}

function itemFault(raw: ArchiveItem): { item: ArchiveItem | null; fault: string } {
  const { error, value } = archiveItem.validate(raw, { ...validationOptions, stripUnknown: true });
  if (error !== undefined) return { item: null, fault: error.details.map((d) => d.message).join(' ') };
  const item = value as ArchiveItem;
  if (item.kind === 'quiz' && item.quiz === null) return { item: null, fault: 'This quiz has no paper in the archive.' };
  return { item, fault: '' };
}

async function readArchive(zip: Zip): Promise<Source> {
  const archive = await readJson(zip);
  const problems: string[] = [];
  const items = archive.items.flatMap((raw) => {
    const { item, fault } = itemFault(raw);
    if (item !== null) return [item];
    const title = typeof raw.title === 'string' ? raw.title : 'without a title';
    problems.push(`“${title.slice(0, 80)}”: ${fault}`);
    return [];
  });
  const questions = archive.questions.flatMap((raw) => {
    const { error, value } = archiveQuestion.validate(raw, { ...validationOptions, stripUnknown: true });
    if (error === undefined) return [value as ArchiveQuestion];
    problems.push(`A question: ${error.details.map((d) => d.message).join(' ')}`);
    return [];
  });
  const [known, refused] = [new Set(items.map((i) => i.id)), new Set(archive.items.map((i) => i.id))];
  const units = archive.units.map((unit) => {
    if (unit.itemIds.some((id) => !known.has(id) && !refused.has(id)))
      problems.push(`The unit “${unit.title}” names an item that is not in the archive.`);
    return { ...unit, itemIds: unit.itemIds.filter((id) => known.has(id)) };
  });
  return { kind: 'archive', archive: { ...archive, items, units, questions }, entryOf: (file) => `files/${file.sha256}`, problems };
}

/** Files that are not there, or larger than the store takes, are said before anything is done. */
function withoutLostFiles(source: Source, zip: Zip): Source {
  const problems = [...source.problems];
  const files = source.archive.files.filter((file) => {
    const size = zip.sizes.get(source.entryOf(file));
    if (size === undefined) problems.push(`The file “${file.name}” is named, but is not in the zip.`);
    else if (size > MOST_ARRIVING_BYTES.file)
      problems.push(
        `The file “${file.name}” has ${Math.round(size / 1_048_576)} MB; a file may have ${MOST_ARRIVING_BYTES.file / 1_048_576} MB.`,
      );
    return size !== undefined && size <= MOST_ARRIVING_BYTES.file;
  });
  return { ...source, archive: { ...source.archive, files }, problems };
}

/** Reads a package, of our own kind or a Common Cartridge, whichever it is by what stands at its root; nothing is taken in yet. */
export async function readSource(zip: Zip, embedHosts: readonly string[]): Promise<Source> {
  if (zip.sizes.has('course.json')) return withoutLostFiles(await readArchive(zip), zip);
  if (zip.sizes.has(MANIFEST)) return withoutLostFiles(await readCartridge(zip, embedHosts), zip);
  const near = [...zip.sizes.keys()].find((name) => name.endsWith(`/${MANIFEST}`) || name.endsWith('/course.json'));
  const found = [...zip.sizes.keys()].slice(0, 4).join(', ') || 'nothing';
  const mend =
    near === undefined
      ? `At its root stand: ${found}.`
      : `There is one at ${near}: pack that folder’s contents themselves, without the folder around them.`;
  throw invalid('file', `This zip is no course: at its root stands neither a course.json nor an ${MANIFEST}. ${mend}`);
}
