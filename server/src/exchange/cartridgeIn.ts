import { type ArchiveFile, type ArchiveItem, type ArchiveUnit, FILE_TYPES, isEmbeddable, LIMITS, pageOf, STORE_TYPES } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import {
  type Cartridge,
  type CartridgeNode,
  type CartridgeResource,
  kindOfItem,
  documentFromHtml,
  type DocumentNode,
  entryFinder,
  type HtmlFile,
  type ItemKind,
  MANIFEST,
  type PartRead,
  type PartText,
  readAssignmentPart,
  readDiscussionPart,
  readLinkPart,
  readManifest,
} from '@rosemary/core';
import { randomUUID } from 'node:crypto';
import { decodeText, type Zip } from '../files/index.ts';
import { AppError, invalid } from '../platform/errors.ts';
import type { Source } from './packageRead.ts';

const MOST_MANIFEST = 20_971_520;

const MOST_PAGE = 5_242_880;

const NOT_YET = {
  questions: 'questions are not taken in yet; they come with the question bank',
  tool: 'outside tools are not taken in',
} as const;

const isHtml = (path: string): boolean => /\.x?html?$/i.test(path);

const nameOf = (path: string): string => path.split('/').at(-1) ?? path;

const cut = (text: string, most: number): string => (text.length > most ? `${text.slice(0, most - 1)}…` : text);

function mediaTypeOf(path: string): string | null {
  const end = /\.[^.]+$/.exec(path)?.[0].toLowerCase() ?? '';
  return Object.values(STORE_TYPES).find((type) => type.extensions.includes(end))?.mediaTypes[0] ?? null;
}

/** Turns a cartridge into the shape of our own archive, with identifiers made up for it; what has no place is said. */
class CartridgeReader {
  readonly problems: string[] = [];
  readonly #zip: Zip;
  readonly #cartridge: Cartridge;
  readonly #embedHosts: readonly string[];
  readonly #courseId = randomUUID();
  readonly #find: (base: string, address: string) => string | null;
  readonly #files = new Map<string, ArchiveFile>();
  readonly #folders = new Map<string, { id: string; parentId: string | null; title: string }>();
  /** Items by the resource they were made of, and by the path of the page they show. */
  readonly #itemOf = new Map<string, string>();
  readonly #itemAt = new Map<string, string>();
  readonly #items: ArchiveItem[] = [];
  readonly #byPath: ReadonlyMap<string, CartridgeResource>;

  constructor(zip: Zip, cartridge: Cartridge, embedHosts: readonly string[]) {
    this.#zip = zip;
    this.#cartridge = cartridge;
    this.#embedHosts = embedHosts;
    this.#byPath = new Map([...cartridge.resources.values()].map((r) => [r.paths[0] ?? '', r]));
    this.#find = entryFinder([...zip.sizes.keys()]);
    this.problems.push(...cartridge.problems);
  }

  async read(): Promise<Source> {
    const { title, description, resources } = this.#cartridge;
    this.#nameFiles();
    const units = this.#outline();
    for (const unit of units) for (const { title: own, resource } of unit.leaves) await this.#addItem(resource, own);
    const placed = units.map((unit) =>
      this.#unit(
        unit.title,
        unit.leaves.flatMap((leaf) => this.#itemOf.get(leaf.resource.id) ?? []),
      ),
    );
    const others = [...resources.values()].filter(
      (r) => !this.#itemOf.has(r.id) && !units.some((u) => u.leaves.some((l) => l.resource === r)),
    );
    const loose: string[] = [];
    for (const resource of others) {
      const isShown = resource.kind === 'content' ? isHtml(resource.paths[0] ?? '') : resource.kind !== 'set' && resource.kind !== null;
      if (!isShown) continue;
      await this.#addItem(resource, '');
      const made = this.#itemOf.get(resource.id);
      if (made !== undefined) loose.push(made);
    }
    if (loose.length > 0) placed.push(this.#unit('Not in the outline', loose));
    const course = {
      id: this.#courseId,
      title: title === '' ? 'A course' : cut(title, LIMITS.title),
      description: cut(description, 4000),
      language: 'en',
      timeZone: null,
    };
    const paths = new Map([...this.#files].map(([path, file]) => [file.id, path]));
    return {
      kind: 'cartridge',
      archive: {
        ...{ format: 'rosemary-course', version: 1, course, policy: null, programme: null, objectives: [], stimuli: [], questions: [] },
        ...{ folders: [...this.#folders.values()], files: [...this.#files.values()], units: placed, items: this.#items },
      },
      // A cartridge has no sums of its files; the path stands in their place.
      entryOf: (file) => paths.get(file.id) ?? '',
      problems: this.problems,
    };
  }

  #unit(title: string, itemIds: readonly string[]): ArchiveUnit {
    const open = { announcedAt: null, opensAt: null, closesAt: null, isStaffOnly: false, isStanding: false };
    return { title: cut(title, LIMITS.unitTitle), ...open, sections: [], itemIds: [...itemIds] };
  }

  /** Folders become units, one after the other: our Plan has one level. What stands loose at the top comes first. */
  #outline(): { title: string; leaves: { title: string; resource: CartridgeResource }[] }[] {
    const units: { title: string; leaves: { title: string; resource: CartridgeResource }[] }[] = [];
    const walk = (nodes: readonly CartridgeNode[], path: readonly string[]): void => {
      const unit = {
        title: path.join(' · ') || this.#cartridge.title || 'A course',
        leaves: [] as { title: string; resource: CartridgeResource }[],
      };
      if (path.length > 0 || nodes.some((n) => n.resourceId !== null)) units.push(unit);
      for (const node of nodes) {
        const resource = node.resourceId === null ? undefined : this.#cartridge.resources.get(node.resourceId);
        if (resource !== undefined) unit.leaves.push({ title: node.title, resource });
        if (node.children.length > 0 || node.resourceId === null) {
          if (path.length > 0)
            this.problems.push(
              `“${node.title}” stood inside “${path.at(-1) ?? ''}”; it is a unit of its own now, since units stand side by side.`,
            );
          walk(node.children, [...path, node.title === '' ? 'Without a title' : node.title]);
        }
      }
    };
    walk(this.#cartridge.tree, []);
    return units;
  }

  /** Every file that is no page of the outline stands in the store, in the folders it had. */
  #nameFiles(): void {
    for (const resource of this.#cartridge.resources.values()) {
      if (resource.kind !== 'content' && resource.kind !== 'set') continue;
      for (const path of resource.paths) {
        if (isHtml(path) || this.#files.has(path)) continue;
        if (mediaTypeOf(path) === null) this.problems.push(`The file “${path}” is of a kind that is not kept here and was left out.`);
        else this.#addFile(path);
      }
    }
  }

  #addFile(path: string): ArchiveFile {
    const file = {
      id: randomUUID(),
      name: cut(nameOf(path), LIMITS.fileName),
      folderId: this.#folder(path.split('/').slice(0, -1)),
      size: 1,
      sha256: '',
      isKept: true,
    };
    this.#files.set(path, file);
    return file;
  }

  #folder(parts: readonly string[]): string | null {
    if (parts.length === 0) return null;
    const key = parts.join('/');
    const known = this.#folders.get(key);
    if (known !== undefined) return known.id;
    const folder = { id: randomUUID(), parentId: this.#folder(parts.slice(0, -1)), title: cut(parts.at(-1) ?? '', LIMITS.title) };
    this.#folders.set(key, folder);
    return folder.id;
  }

  async #addItem(resource: CartridgeResource, title: string): Promise<void> {
    if (this.#itemOf.has(resource.id)) return;
    // Known before it is read, so that pages that link to each other find each other.
    const id = this.#idOf(resource);
    const what = `“${title === '' ? (resource.paths[0] ?? resource.id) : title}”`;
    try {
      const item = await this.#item(id, resource, title);
      if (item === null) return;
      this.#itemOf.set(resource.id, id);
      this.#items.push(item);
    } catch (error) {
      this.problems.push(`${what}: ${error instanceof AppError ? error.message : 'could not be read.'}`);
    }
  }

  #idOf(resource: CartridgeResource): string {
    const path = resource.paths[0] ?? resource.id;
    const known = this.#itemAt.get(path);
    const id = known ?? randomUUID();
    this.#itemAt.set(path, id);
    return id;
  }

  async #item(id: string, resource: CartridgeResource, title: string): Promise<ArchiveItem | null> {
    const path = resource.paths[0];
    if (path === undefined) throw invalid('file', 'It names no file.');
    const blank = (kind: ItemKind, own: string): ArchiveItem =>
      blankItem(id, kind, cut(title || own || nameOf(path), LIMITS.title), resource.isStaffOnly);
    switch (resource.kind) {
      case 'content':
      case 'set':
        return isHtml(path) ? this.#page(blank, path, title) : this.#file(blank('file', ''), path);
      case 'link': {
        const { title: own, address } = await this.#part(path, readLinkPart);
        if (!/^https?:\/\//i.test(address))
          throw invalid('address', `The link leads to “${address.slice(0, 80)}”, which is no address of the web.`);
        return { ...blank('link', own), link: { address, note: '' } };
      }
      case 'discussion': {
        const part = await this.#part(path, readDiscussionPart);
        const document = this.#text(path, part.text, part.attachments, title || part.title);
        return { ...blank('discussion', part.title), discussion: { document, isPostFirst: false } };
      }
      case 'assignment':
        return this.#assignment(blank, path, title);
      case 'questions':
      case 'tool':
        this.problems.push(`“${title || nameOf(path)}”: ${NOT_YET[resource.kind]}.`);
        return null;
      case null:
        // Said already, with its type.
        return null;
    }
  }

  #file(item: ArchiveItem, path: string): ArchiveItem {
    const file = this.#files.get(path);
    if (file === undefined) throw invalid('file', `Its file “${path}” is of a kind that is not kept here.`);
    return { ...item, file: { fileId: file.id, note: '' } };
  }

  async #page(blank: (kind: ItemKind, own: string) => ArchiveItem, path: string, title: string): Promise<ArchiveItem> {
    const { text, note } = decodeText(await this.#zip.readBytes(path, MOST_PAGE), 'html');
    if (note !== '') this.problems.push(`“${title || nameOf(path)}”: ${note}`);
    const read = this.#html(path, text, title);
    return { ...blank('page', read.title), page: read.document };
  }

  async #assignment(blank: (kind: ItemKind, own: string) => ArchiveItem, path: string, title: string): Promise<ArchiveItem> {
    const part = await this.#part(path, readAssignmentPart);
    const name = title || part.title;
    const instructions = this.#text(path, part.text, part.attachments, name);
    const say = (text: string): void => void this.problems.push(`“${name}”: ${text}`);
    if (part.pointsFault !== null) say(part.pointsFault);
    if (part.others.length > 0)
      say(`work as ${part.others.map((f) => (f === 'url' ? 'a link' : f)).join(', ')} cannot be handed in here; choose another way.`);
    if (part.staffText.text !== '') say('what it says to staff alone is its note to next time now.');
    const note = part.staffText.isHtml ? this.#html(path, part.staffText.text, name).document : null;
    return {
      ...blank('assignment', part.title),
      possible: part.points ?? 0,
      counts: part.points !== null,
      nextNote: cut(note === null ? part.staffText.text : words(note), LIMITS.note),
      assignment: {
        ...{ instructions, acceptsText: part.acceptsText, acceptsFiles: part.acceptsFiles },
        ...{ acceptsLink: false, acceptsRecording: false, onPaper: false, judged: 'points' as const },
        ...{ fileTypes: Object.keys(FILE_TYPES), mostFiles: 5, mostBytes: 20_971_520, attemptsAllowed: 1 },
        ...{
          counted: 'latest' as const,
          groupSetId: null,
          allowsWithdrawal: false,
          anonymous: 'none' as const,
          anonymousUntil: null,
          markers: 1 as const,
        },
      },
    };
  }

  async #part<T>(path: string, read: (xml: string) => PartRead<T>): Promise<T> {
    const { text } = decodeText(await this.#zip.readBytes(path, MOST_PAGE), 'xml');
    const part = read(text);
    if (!part.ok) throw invalid('file', `“${path}” cannot be read: ${part.reason}.`);
    return part.part;
  }

  #text(path: string, text: PartText, attachments: readonly string[], title: string): DocumentNode {
    const plain = (): DocumentNode[] =>
      text.text
        .split(/\n+/)
        .flatMap((line) => (line.trim() === '' ? [] : [{ type: 'paragraph', content: [{ type: 'text', text: line.trim() }] }]));
    const body = text.isHtml ? (this.#html(path, text.text, title).document.content ?? []) : plain();
    const shown = attachments.flatMap((address): DocumentNode[] => {
      const file = this.#fileAt(path, address);
      if (file === null)
        this.problems.push(`“${title}”: its attachment “${address.slice(0, 80)}” is not in the package or of no kind that is kept.`);
      return file === null ? [] : [{ type: 'fileShown', attrs: { ...file } }];
    });
    const content = [...body, ...shown];
    return { type: 'doc', content: content.length === 0 ? [{ type: 'paragraph' }] : content };
  }

  #fileAt(base: string, address: string): HtmlFile | null {
    const path = this.#find(base, address);
    const mediaType = path === null ? null : mediaTypeOf(path);
    if (path === null || mediaType === null || isHtml(path)) return null;
    const file = this.#files.get(path) ?? this.#addFile(path);
    return { fileId: file.id, src: urlOf(api.getFile, { courseId: this.#courseId, fileId: file.id }), name: file.name, mediaType };
  }

  #linkAt(base: string, href: string): string | null {
    if (/^(https?:|mailto:)/i.test(href)) return href;
    const path = this.#find(base, href);
    if (path === null) return null;
    const resource = this.#byPath.get(path);
    if (resource !== undefined && (isHtml(path) || !['content', 'set'].includes(resource.kind ?? '')))
      return pageOf('item', { courseId: this.#courseId, itemId: this.#idOf(resource) });
    return this.#fileAt(base, href)?.src ?? null;
  }

  #html(path: string, text: string, title: string): { document: DocumentNode; title: string } {
    const read = documentFromHtml(text, {
      link: (href) => this.#linkAt(path, href),
      file: (address) => this.#fileAt(path, address),
      isEmbeddable: (address) => isEmbeddable(address, this.#embedHosts),
    });
    const name = title || read.title || nameOf(path);
    this.problems.push(...read.problems.map((p) => `“${name}”: ${p}.`));
    return { document: withoutTitle(read.document, name), title: read.title };
  }
}

/** A page that begins with its own title says it twice. */
function withoutTitle(document: DocumentNode, title: string): DocumentNode {
  const [first, ...rest] = document.content ?? [];
  if (first?.type !== 'heading' || words(first).trim() !== title.trim()) return document;
  return { ...document, content: rest.length === 0 ? [{ type: 'paragraph' }] : rest };
}

const words = (node: DocumentNode): string => node.text ?? (node.content ?? []).map(words).join(node.type === 'doc' ? '\n' : '');

/** A new item comes as a draft with no dates: a package has none. */
function blankItem(id: string, kind: ItemKind, title: string, isStaffOnly: boolean): ArchiveItem {
  return {
    ...{ id, kind, title, isDraft: true, isOff: false, isStaffOnly, category: null, possible: 0, multiplier: 1000, isExtraCredit: false },
    ...{ counts: false, isRequired: true, announcedAt: null, opensAt: null, dueAt: null, closesAt: null, estimatedMinutes: 30 },
    ...{
      markingMinutes: 0,
      taskType: null,
      doneRule: kindOfItem(kind).doneRules[0],
      doneScore: null,
      releaseMode: 'hand',
      releaseAt: null,
      nextNote: '',
    },
    ...{
      opening: { needs: 'all', rules: [] },
      sections: [],
      variants: [],
      objectiveIds: [],
      showsStatistics: false,
      studentReads: 'points',
      staffReads: 'points',
      ownLevels: null,
      late: null,
      matching: null,
    },
    ...{ page: null, working: null, assignment: null, rubric: [], peer: null, link: null, file: null, discussion: null, quiz: null },
  };
}

export async function readCartridge(zip: Zip, embedHosts: readonly string[]): Promise<Source> {
  const read = readManifest(decodeText(await zip.readBytes(MANIFEST, MOST_MANIFEST), 'xml').text);
  if (!read.ok) throw invalid('file', read.reason);
  return new CartridgeReader(zip, read.cartridge, embedHosts).read();
}
