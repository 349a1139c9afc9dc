import { findMarks, MARKS, readRows, setStraight, type RowReading, type SheetPage, type SheetPlace } from '@rosemary/core';
import { AppError } from '../platform/errors.ts';
import { readPicture } from './readPicture.ts';

/** A page of a scanner, with all that is printed for its test, so that nothing has to be asked while it is read. */
export interface PageWish {
  readonly bytes: Uint8Array;
  /** The number of the test, as its sheets name it. */
  readonly test: number;
  readonly formOf: { readonly [sheet: number]: number };
  readonly pagesOf: { readonly [form: number]: readonly SheetPage[] };
}
export type PageRead =
  | {
      readonly kind: 'read';
      readonly sheet: number;
      readonly page: number;
      readonly rows: readonly RowReading[];
      readonly corners: readonly SheetPlace[];
    }
  | { readonly kind: 'unread'; readonly problem: string }
  | { readonly kind: 'refused'; readonly reason: string };

/** Reads a page: which sheet it is, and what is marked on it. Knows no database, for it runs in a thread of its own. */
export default async function readPage({ bytes, test, formOf, pagesOf }: PageWish): Promise<PageRead> {
  const unread = (problem: string): PageRead => ({ kind: 'unread', problem });
  let image: Awaited<ReturnType<typeof readPicture>>;
  try {
    image = await readPicture(Buffer.from(bytes));
  } catch (error) {
    if (error instanceof AppError) return { kind: 'refused', reason: error.message };
    throw error;
  }
  const straight = setStraight(image);
  if (!straight.ok) return unread(`${straight.reason}${findMarks(image) === null ? '' : ' Type its answers by hand.'}`);
  const { code, at } = straight.sheet;
  if (code.test !== test) return unread(`This is a sheet of another test (its sheet ${code.sheet}).`);
  const form = formOf[code.sheet];
  if (form === undefined) return unread(`Sheet ${code.sheet} was not printed for this test.`);
  const page = pagesOf[form]?.[code.page];
  if (page === undefined) return unread(`Sheet ${code.sheet} has no page ${code.page + 1}.`);
  const corners = MARKS.map((m) => {
    const p = at(m);
    return { x: p.x / image.width, y: p.y / image.height };
  });
  return { kind: 'read', sheet: code.sheet, page: code.page, rows: readRows(image, straight.sheet, page), corners };
}
