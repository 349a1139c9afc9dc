import { id, instant, Joi, title, version } from './joi.ts';
import { LIMITS } from './limits.ts';

/** A table as it stands on a screen: the first line are its heads. */
export interface ScreenTable {
  readonly title: string;
  readonly lines: (string | number | null)[][];
}
export const screenTable = Joi.object<ScreenTable, true>({
  title: title().required().label('Title of the table'),
  lines: Joi.array()
    .min(1)
    .max(20_000)
    .required()
    .items(Joi.array().max(1000).items(Joi.string().allow('').max(2000), Joi.number(), Joi.valid(null)))
    .label('Table'),
});

export interface CourseFile {
  readonly id: string;
  readonly name: string;
  readonly size: number;
  readonly mediaType: string;
  readonly url: string;
}

/** A file of the store with where it stands, what shows it, and when students may have it. */
export interface StoreFile extends CourseFile {
  readonly folderId: string | null;
  readonly opensAt: string | null;
  readonly closesAt: string | null;
  readonly addedAt: string;
  readonly addedBy: string;
  readonly version: number;
  readonly uses: readonly { readonly itemId: string; readonly title: string }[];
  /** It is the picture of the course, which everyone in it sees. */
  readonly isPicture: boolean;
  /** What it held before, the latest first. */
  readonly past: readonly { readonly id: string; readonly name: string; readonly until: string; readonly by: string }[];
}
export interface StoreFolder {
  readonly id: string;
  readonly parentId: string | null;
  readonly title: string;
  readonly opensAt: string | null;
  readonly closesAt: string | null;
  readonly version: number;
}
export interface FileStore {
  readonly folders: readonly StoreFolder[];
  readonly files: readonly StoreFile[];
  readonly bytes: number;
}

export interface NewFolder {
  readonly title: string;
  readonly parentId: string | null;
}
export const newFolder = Joi.object<NewFolder, true>({
  title: title().required().label('Title of the folder'),
  parentId: id().allow(null).required(),
});

export interface FolderChange {
  readonly version: number;
  readonly title?: string;
  readonly parentId?: string | null;
  readonly opensAt?: string | null;
  readonly closesAt?: string | null;
}
export const folderChange = Joi.object<FolderChange, true>({
  version: version(),
  title: title().label('Title of the folder'),
  parentId: id().allow(null).label('Folder'),
  opensAt: instant().label('Open from'),
  closesAt: instant().label('Open until'),
});

export interface FileChange {
  readonly version: number;
  readonly name?: string;
  readonly folderId?: string | null;
  readonly opensAt?: string | null;
  readonly closesAt?: string | null;
}
export const fileChange = Joi.object<FileChange, true>({
  version: version(),
  name: title(LIMITS.fileName).label('Name'),
  folderId: id().allow(null).label('Folder'),
  opensAt: instant().label('Open from'),
  closesAt: instant().label('Open until'),
});

export interface FileChoice {
  readonly fileIds: string[];
}
export const fileChoice = Joi.object<FileChoice, true>({ fileIds: Joi.array().min(1).max(500).unique().items(id()).required() });

export interface PastChoice {
  readonly pastId: string;
}
export const pastChoice = Joi.object<PastChoice, true>({ pastId: Joi.string().pattern(/^\d+$/).required() });

/** An item that is a link, or one file of the course. */
export interface LinkChange {
  readonly version: number;
  readonly address?: string;
  readonly note?: string;
}
export const linkChange = Joi.object<LinkChange, true>({
  version: version(),
  address: Joi.string()
    .trim()
    .allow('')
    .max(LIMITS.address)
    .uri({ scheme: ['http', 'https'] })
    .label('Address')
    .messages({ 'string.uriCustomScheme': '{{#label}} is “{{#value}}”, which is no whole address. It begins with https:// or http://.' }),
  note: Joi.string().allow('').max(LIMITS.note).label('Note'),
});
export interface ShownFileChange {
  readonly version: number;
  readonly fileId?: string | null;
  readonly note?: string;
}
export const shownFileChange = Joi.object<ShownFileChange, true>({
  version: version(),
  fileId: id().allow(null).label('File'),
  note: Joi.string().allow('').max(LIMITS.note).label('Note'),
});
export interface LinkView {
  readonly address: string;
  readonly note: string;
}
export interface ShownFileView {
  readonly file: CourseFile | null;
  readonly note: string;
}
