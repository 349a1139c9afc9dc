import type { Archive, ArchiveItem } from '@rosemary/api';
import {
  addressFrom,
  documentToHtml,
  escapeMarkup,
  filesIn,
  formatPoints,
  MANIFEST,
  writeAssignmentPart,
  writeDiscussionPart,
  writeLinkPart,
  writeManifest,
  type DocumentNode,
  type ItemKind,
  type ResourceWish,
} from '@rosemary/core';

/** A cartridge to be packed: what is written here, and which files of the course stand where. */
export interface CartridgeOut {
  readonly texts: ReadonlyMap<string, string>;
  readonly files: ReadonlyMap<string, string>;
}

/** Where items of a kind are written in a package; `file` is the file it shows, and what stays behind says why. */
const GOES_OUT = {
  page: 'pages',
  link: 'links',
  discussion: 'discussions',
  assignment: 'assignments',
  file: 'file',
  quiz: { stays: 'a quiz; it goes out by itself, as a QTI package from its settings' },
  activity: { stays: 'judged without a hand-in' },
} as const satisfies { readonly [kind in ItemKind]: string | { readonly stays: string } };
type Written = 'page' | 'link' | 'discussion' | 'assignment';
const isWritten = (item: ArchiveItem): item is ArchiveItem & { kind: Written } =>
  typeof GOES_OUT[item.kind] === 'string' && item.kind !== 'file';

const plainName = (name: string): string => name.replace(/[\\/:*?"<>|\u0000-\u001f]/g, '_');

/** A path that any file system takes, and that no other has. */
function freePath(folder: string, name: string, taken: Set<string>): string {
  const clean = plainName(name);
  const [, stem = clean, end = ''] = /^(.+?)(\.[^.]*)?$/.exec(clean) ?? [];
  for (let n = 1; ; n += 1) {
    const path = `${folder}${n === 1 ? clean : `${stem} (${n})${end}`}`;
    if (taken.has(path.toLowerCase())) continue;
    taken.add(path.toLowerCase());
    return path;
  }
}

function filePaths(archive: Archive): Map<string, string> {
  const folders = new Map(archive.folders.map((f) => [f.id, f]));
  const way = (id: string | null): string => {
    const folder = id === null ? undefined : folders.get(id);
    return folder === undefined ? 'files/' : `${way(folder.parentId)}${plainName(folder.title)}/`;
  };
  const taken = new Set<string>();
  return new Map(archive.files.map((file) => [file.id, freePath(way(file.folderId), file.name, taken)]));
}

const page = (title: string, language: string, body: string): string =>
  `<!DOCTYPE html>\n<html lang="${escapeMarkup(language)}"><head><meta charset="utf-8"><title>${escapeMarkup(title)}</title></head><body>${body}</body></html>\n`;

const plural = (n: number, one: string, more: string): string => (n === 1 ? `1 ${one}` : `${n} ${more}`);

/** What of a course has no place in a cartridge. */
export function lossesOf(archive: Archive): string[] {
  const count = (is: (item: ArchiveItem) => boolean): number => archive.items.filter(is).length;
  const say = (n: number, text: (n: number) => string): string[] => (n === 0 ? [] : [text(n)]);
  const isDated = (i: ArchiveItem): boolean =>
    [i.announcedAt, i.opensAt, i.dueAt, i.closesAt].some((at) => at !== null) || i.variants.length > 0;
  return [
    ...archive.items.flatMap((i) => {
      const place = GOES_OUT[i.kind];
      return typeof place === 'string' ? [] : [`“${i.title}” is ${place.stays}, so it stays behind.`];
    }),
    ...archive.items
      .filter((i) => i.kind === 'link' && (i.link?.address ?? '') === '')
      .map((i) => `“${i.title}” leads nowhere yet, so it stays behind.`),
    ...archive.items
      .filter((i) => i.kind === 'file' && (i.file?.fileId ?? null) === null)
      .map((i) => `“${i.title}” has no file yet, so it stays behind.`),
    ...say(count(isDated), (n) => `The dates of ${plural(n, 'item', 'items')}.`),
    ...say(
      count((i) => i.opening.rules.length > 0),
      (n) => `The opening rules of ${plural(n, 'item', 'items')}.`,
    ),
    ...say(
      count((i) => i.rubric.length > 0),
      (n) => `${plural(n, 'rubric', 'rubrics')}.`,
    ),
    ...say(archive.objectives.length, (n) => `${plural(n, 'objective', 'objectives')}. They go out as a file of their own.`),
    'How grades are made: categories, weights and rules.',
    'Minutes, sections, drafts: everything is open in the package.',
  ];
}

/** Lays a course out as a Common Cartridge 1.3. Names in it are made of identifiers where they must be, of titles nowhere. */
export function makeCartridge(archive: Archive): CartridgeOut {
  const { language } = archive.course;
  const files = filePaths(archive);
  const usable = archive.items.filter((i) =>
    isWritten(i) ? i.kind !== 'link' || (i.link?.address ?? '') !== '' : i.kind === 'file' && files.has(i.file?.fileId ?? ''),
  );
  const pathOf = new Map(
    usable.map((i) => [
      i.id,
      isWritten(i) ? `${GOES_OUT[i.kind]}/${i.id}.${i.kind === 'page' ? 'html' : 'xml'}` : (files.get(i.file?.fileId ?? '') ?? ''),
    ]),
  );
  const texts = new Map<string, string>();
  const fileResource = (fileId: string): string => `file_${fileId}`;
  const resourceOf = (item: ArchiveItem): string => (item.kind === 'file' ? fileResource(item.file?.fileId ?? '') : `item_${item.id}`);

  /** In pages addresses are seen from the page; in descriptions they carry the mark that stands for where the description is. */
  const html = (document: DocumentNode, base: string): string => {
    const mark = base.endsWith('.html') ? '' : '$IMS-CC-FILEBASE$';
    const to = (path: string | undefined): string | null => (path === undefined ? null : mark + addressFrom(base, path));
    return documentToHtml(document, {
      file: (id) => to(files.get(id)),
      link: (href) => {
        const [, kind, id = ''] = /\/(items|study|files)\/([0-9a-f-]{36})/.exec(href) ?? [];
        if (!href.startsWith('/')) return href;
        return to(kind === 'files' ? files.get(id) : pathOf.get(id));
      },
    });
  };
  const write = (item: ArchiveItem & { kind: Written }, path: string): string => {
    const { title } = item;
    if (item.kind === 'page') return page(title, language, item.page === null ? '' : html(item.page, path));
    if (item.kind === 'link') return writeLinkPart({ title, address: item.link?.address ?? '' });
    if (item.kind === 'discussion')
      return writeDiscussionPart({ title, html: item.discussion === null ? '' : html(item.discussion.document, path) });
    const { instructions, acceptsText = false, acceptsFiles = false } = item.assignment ?? {};
    const points = item.counts && item.possible > 0 ? formatPoints(item.possible) : null;
    return writeAssignmentPart({
      id: `assignment_${item.id}`,
      title,
      html: instructions === undefined ? '' : html(instructions, path),
      points,
      acceptsText,
      acceptsFiles,
    });
  };

  const resources: ResourceWish[] = archive.files.map((file) => ({
    id: fileResource(file.id),
    kind: 'content',
    path: files.get(file.id) ?? '',
    needs: [],
    // A file that only staff-only items show is theirs alone.
    isStaffOnly: isStaffFile(archive, file.id),
  }));
  for (const item of usable) {
    if (!isWritten(item)) continue;
    const path = pathOf.get(item.id) ?? '';
    texts.set(path, write(item, path));
    const shown = [item.page, item.assignment?.instructions ?? null, item.discussion?.document ?? null].flatMap(filesIn);
    resources.push({
      id: `item_${item.id}`,
      kind: item.kind === 'page' ? 'content' : item.kind,
      path,
      needs: shown.filter((id) => files.has(id)).map(fileResource),
      isStaffOnly: item.isStaffOnly,
    });
  }
  const byId = new Map(usable.map((i) => [i.id, i]));
  const units = archive.units.map((unit) => ({
    title: unit.title,
    items: unit.itemIds.flatMap((id) => {
      const item = byId.get(id);
      return item === undefined ? [] : [{ title: item.title, resourceId: resourceOf(item) }];
    }),
  }));
  const { title, description } = archive.course;
  texts.set(MANIFEST, writeManifest({ id: `course_${archive.course.id}`, title, description, language, units, resources }));
  return { texts, files };
}

function isStaffFile(archive: Archive, fileId: string): boolean {
  const shows = archive.items.filter(
    (i) =>
      i.file?.fileId === fileId ||
      [i.page, i.assignment?.instructions ?? null, i.discussion?.document ?? null].some((d) => filesIn(d).includes(fileId)),
  );
  return shows.length > 0 && shows.every((i) => i.isStaffOnly);
}
