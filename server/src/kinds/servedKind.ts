import type { ArchiveFile, ArchiveItem, ArchiveQuestion, ArchiveStimulus, ItemChange, ItemDetail, PlanItem } from '@rosemary/api';
import type { Actor } from '@rosemary/core';
import type { Copied, KeptText, PartsOfItem, PutFirst } from '../items/index.ts';
import type { Db } from '../platform/database.ts';

/** Copies of items, within their course or in another. */
export interface Copying {
  readonly db: Db;
  readonly copies: readonly Copied[];
  /** The course the copies stand in. */
  readonly courseId: string;
  readonly isWithinCourse: boolean;
  /** Files under their names in the other course; none within the same one. */
  readonly files: ReadonlyMap<string, string>;
  /** A text whose pictures and links lead to their new places. */
  readonly moved: <T extends object>(document: T) => T;
}

/** An item that comes out of an archive, into one that was made for it. */
export interface Bringing {
  readonly db: Db;
  readonly courseId: string;
  readonly itemId: string;
  readonly actor: Actor;
  readonly now: number;
  readonly moved: <T extends object>(document: T) => T;
  /** What a file or a question of the archive is called here; null where it did not come. */
  readonly fileOf: (id: string) => string | null;
  readonly questionOf: (id: string) => string | null;
  /** Says what could not be taken. */
  readonly problem: (text: string) => void;
}

/** What items of a kind are in an archive, and what they need beside themselves. */
export interface ReadOut {
  readonly items: ReadonlyMap<string, Partial<ArchiveItem>>;
  readonly questions?: readonly ArchiveQuestion[];
  readonly stimuli?: readonly ArchiveStimulus[];
  readonly files?: readonly ArchiveFile[];
}

/** A kind of item as the server serves it. What it says of itself (its word, its rules, what it begins with) stands in core. */
export interface ServedKind {
  /** The tables with rows of its own, and every column of them. */
  readonly parts: PartsOfItem;
  /** The rows of new items. */
  readonly insert: (db: Db, itemIds: readonly string[]) => Promise<void>;
  readonly copy: (copying: Copying) => Promise<void>;
  /** What its editor and its inspector read beside the item. */
  readonly detail: (db: Db, itemId: string) => Promise<Partial<Omit<ItemDetail, 'item'>>>;
  /** Refuses a change of the item that the kind cannot take. */
  readonly checkChange: (db: Db, before: PlanItem, change: Pick<ItemChange, 'possible' | 'isDraft' | 'releaseMode'>) => Promise<void>;
  /** What an archive holds of these items. */
  readonly readOut: (db: Db, itemIds: readonly string[]) => Promise<ReadOut>;
  readonly bring: (bringing: Bringing, item: ArchiveItem) => Promise<void>;
  /** Puts words before its text or note; null where it has none (`hasText` of the kind in core). */
  readonly putFirst: PutFirst | null;
  /** Its text, of which a working copy is kept while students read it; null where there is none. */
  readonly text: KeptText | null;
}

export const takesAnyChange: ServedKind['checkChange'] = () => Promise.resolve();
