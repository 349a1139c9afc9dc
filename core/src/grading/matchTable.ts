import { plainLetters } from '../exact/plainLetters.ts';

/** A student that a line of a table may be about; `keys` are identifiers and addresses, any of which names them. */
export interface ResultStudent {
  readonly enrolmentId: string;
  readonly givenName: string;
  readonly familyName: string;
  readonly keys: readonly string[];
}
export interface ResultColumn {
  readonly id: string;
  readonly title: string;
}

/** What a column of a table is: whose results it holds, who a line is about, or what is not read. */
export type ResultHead =
  | { readonly kind: 'column'; readonly header: string; readonly columnId: string }
  | { readonly kind: 'who'; readonly header: string; readonly by: 'key' | 'name' | 'family' | 'given' }
  | { readonly kind: 'left out'; readonly header: string; readonly why: string }
  | { readonly kind: 'unknown'; readonly header: string };

/** A line of a table with the student it is about; null where that is not sure, with those it may be. */
export interface ResultLine {
  readonly line: number;
  readonly named: string;
  readonly enrolmentId: string | null;
  readonly candidates: readonly string[];
  readonly cells: readonly string[];
}

export interface MatchedTable {
  readonly heads: readonly ResultHead[];
  readonly lines: readonly ResultLine[];
}
export type TableMatch = { readonly ok: true; readonly table: MatchedTable } | { readonly ok: false; readonly reason: string };

const plain = (text: string): string => plainLetters(text).replace(/\s+/g, ' ').trim();
const KEY_HEADS = new Set([
  'rosemary id',
  'student id',
  'id',
  'email',
  'e-mail',
  'mail',
  'email address',
  'user',
  'username',
  'number',
  'student number',
]);
const NAME_HEADS = new Set(['name', 'student', 'full name', 'student name']);
const FAMILY_HEADS = new Set(['family name', 'last name', 'surname']);
const GIVEN_HEADS = new Set(['given name', 'first name', 'forename']);
/** Numbers that are worked out, and words about a student: they are no results to be written. */
const COMPUTED = /^(section|floor|reach|letter|total( so far)?|grade|rank)$|\((subtotal|total)[^)]*\)$/;

const whoOf = (head: string): 'key' | 'name' | 'family' | 'given' | null =>
  KEY_HEADS.has(head) ? 'key' : NAME_HEADS.has(head) ? 'name' : FAMILY_HEADS.has(head) ? 'family' : GIVEN_HEADS.has(head) ? 'given' : null;
/** A title without what an export writes behind it, such as the points: `Test (20)` is `test`. */
const bare = (title: string): string => plain(title).replace(/\s*[([]\s*[\d.,]+\s*(points?|pts?)?\s*[)\]]$/, '');
/** Lines over and between the students that tell of the columns. */
const ABOUT_COLUMNS = /^(points|column id|weight|weights|category|due)$/;
const MOST_HEADS = 12;

function headsOf(line: readonly string[], ids: readonly string[] | null, columns: readonly ResultColumn[]): ResultHead[] {
  const byId = new Map(columns.map((c) => [c.id.toLowerCase(), c]));
  const byTitle = new Map<string, ResultColumn[]>();
  for (const c of columns) byTitle.set(plain(c.title), [...(byTitle.get(plain(c.title)) ?? []), c]);
  const taken = new Set<string>();
  return line.map((header, n): ResultHead => {
    const who = whoOf(plain(header));
    if (who !== null) return { kind: 'who', header, by: who };
    if (header.trim() === '') return { kind: 'left out', header, why: 'it has no heading' };
    const found = byId.get((ids?.[n] ?? '').trim().toLowerCase());
    const titled = found !== undefined ? [found] : (byTitle.get(plain(header)) ?? byTitle.get(bare(header)) ?? []);
    const free = titled.filter((c) => !taken.has(c.id));
    if (free.length === 1 && free[0] !== undefined) {
      taken.add(free[0].id);
      return { kind: 'column', header, columnId: free[0].id };
    }
    if (titled.length > 0)
      return { kind: 'left out', header, why: free.length > 1 ? 'several columns have this title' : 'a column before it has this title' };
    return COMPUTED.test(plain(header))
      ? { kind: 'left out', header, why: 'it is worked out, or is no result' }
      : { kind: 'unknown', header };
  });
}

interface Named {
  readonly key: string[];
  readonly names: string[];
}
function namedBy(cells: readonly string[], heads: readonly ResultHead[]): Named {
  const of = (by: string): string[] =>
    heads.flatMap((h, n) => (h.kind === 'who' && h.by === by && (cells[n] ?? '').trim() !== '' ? [(cells[n] ?? '').trim()] : []));
  const [family, given] = [of('family')[0], of('given')[0]];
  return { key: of('key'), names: [...of('name'), ...(family !== undefined && given !== undefined ? [`${family}, ${given}`] : [])] };
}

/**
 * Meets a table of results (of a spreadsheet) with the students and columns of a course, before anything is written.
 *
 * Convention: the heads are the first of the top twelve lines that names who a line is about (an identifier, an address, a name); lines above it
 * (merged heads) are passed over, and so are lines of points, weights or column identifiers. Students are met by identifier or address, else
 * by name, whatever its accents; where two have the name, or nobody, the line says so. Columns are met by identifier, else by title, with or
 * without the points behind it. Errors are values.
 * Worked example: heads `Email, Test (20)` and a line `ada@x.org, 12` give the line of Ada and the column Test.
 */
export function matchTable(
  rows: readonly (readonly string[])[],
  students: readonly ResultStudent[],
  columns: readonly ResultColumn[],
): TableMatch {
  const top = rows.slice(0, MOST_HEADS).findIndex((line) => line.some((cell) => whoOf(plain(cell)) !== null));
  if (top < 0)
    return {
      ok: false,
      reason: 'No column says who a line is about. Give one the heading Student ID, Email or Name, in the line over the results.',
    };
  const about = rows.slice(top + 1, top + 6).filter((line) => ABOUT_COLUMNS.test(plain(line[0] ?? '')));
  const ids = about.find((line) => plain(line[0] ?? '') === 'column id') ?? null;
  const heads = headsOf(rows[top] ?? [], ids, columns);
  const byKey = new Map(students.flatMap((s) => s.keys.map((key) => [plain(key), s.enrolmentId] as const)));
  const byName = new Map<string, string[]>();
  for (const s of students)
    for (const name of [`${s.familyName}, ${s.givenName}`, `${s.givenName} ${s.familyName}`, `${s.familyName} ${s.givenName}`])
      byName.set(plain(name), [...new Set([...(byName.get(plain(name)) ?? []), s.enrolmentId])]);
  const lines = rows.flatMap((cells, n): ResultLine[] => {
    if (n <= top || ABOUT_COLUMNS.test(plain(cells[0] ?? '')) || cells.every((cell) => cell.trim() === '')) return [];
    const { key, names } = namedBy(cells, heads);
    const keyed = key.map((one) => byKey.get(plain(one))).find((id) => id !== undefined);
    const candidates =
      keyed === undefined ? (names.map((name) => byName.get(plain(name))).find((found) => found !== undefined) ?? []) : [keyed];
    return [
      {
        line: n + 1,
        named: [...names, ...key].join(' · '),
        enrolmentId: candidates.length === 1 ? (candidates[0] ?? null) : null,
        candidates: candidates.length > 1 ? candidates : [],
        cells,
      },
    ];
  });
  return { ok: true, table: { heads, lines } };
}

/** Lines that name a student whom an earlier line names: only the first may be written. Worked example: two lines of one address give the second. */
export function repeatedLines(lines: readonly Pick<ResultLine, 'line' | 'enrolmentId'>[]): ReadonlySet<number> {
  const seen = new Set<string>();
  return new Set(
    lines.flatMap(({ line, enrolmentId }) => {
      if (enrolmentId === null) return [];
      if (seen.has(enrolmentId)) return [line];
      seen.add(enrolmentId);
      return [];
    }),
  );
}
