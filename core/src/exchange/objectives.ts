/** An objective as it is read from a file or written to one. */
export interface ObjectiveRow {
  /** What tells it from the others in its file: its identifier in a framework, its code in a table. */
  readonly key: string;
  readonly code: string;
  readonly statement: string;
  readonly parentKey: string | null;
  /** Where it stands in its file, counted from 1, for messages. */
  readonly line: number;
}
export interface ObjectiveProblem {
  readonly line: number;
  readonly text: string;
}
export interface ObjectivesRead {
  readonly rows: readonly ObjectiveRow[];
  readonly problems: readonly ObjectiveProblem[];
}

const MOST_CODE = 60;
const MOST_STATEMENT = 2000;

function faultOf(row: ObjectiveRow, seen: ReadonlySet<string>): string | null {
  if (row.statement === '') return 'has no statement. Say what a student should be able to do.';
  if (row.statement.length > MOST_STATEMENT)
    return `has a statement of ${row.statement.length} characters; it takes at most ${MOST_STATEMENT}.`;
  if (row.code.length > MOST_CODE) return `has the code “${row.code.slice(0, 20)}…”, which is longer than ${MOST_CODE} characters.`;
  if (row.key === '') return 'has no code. Give it one, so that it is found again.';
  return seen.has(row.key) ? `has the code “${row.code === '' ? row.key : row.code}” a second time. Give it another.` : null;
}

/** Rows whose way up turns in a circle. */
function circular(rows: readonly ObjectiveRow[]): ReadonlySet<string> {
  const parentOf = new Map(rows.map((row) => [row.key, row.parentKey]));
  const found = new Set<string>();
  for (const { key } of rows) {
    const way = new Set<string>();
    let at: string | null = key;
    while (at !== null && !way.has(at)) {
      way.add(at);
      at = parentOf.get(at) ?? null;
    }
    if (at === key) found.add(key);
  }
  return found;
}

/**
 * What of a list of objectives can be taken in, and what is wrong with the rest, row by row.
 *
 * Left out are rows with no statement or code, with a code that was there before, with a parent that is not in the file or
 * stands in a circle, and rows below one that is left out. Order is kept. Worked example: rows A (below B) and B (below A)
 * give no row and two problems.
 */
export function checkObjectives(all: readonly ObjectiveRow[]): ObjectivesRead {
  const problems: ObjectiveProblem[] = [];
  const seen = new Set<string>();
  let rows: ObjectiveRow[] = [];
  for (const row of all) {
    const fault = faultOf(row, seen);
    if (fault === null) {
      seen.add(row.key);
      rows.push(row);
    } else problems.push({ line: row.line, text: `Row ${row.line} ${fault}` });
  }
  const circles = circular(rows);
  const drop = (isBad: (row: ObjectiveRow) => boolean, why: (row: ObjectiveRow) => string): boolean => {
    const bad = rows.filter(isBad);
    problems.push(...bad.map((row) => ({ line: row.line, text: `Row ${row.line}, “${row.code}”, ${why(row)}` })));
    rows = rows.filter((row) => !bad.includes(row));
    return bad.length > 0;
  };
  drop(
    (row) => circles.has(row.key),
    () => 'stands below itself, by way of its parents. Give one of them another parent.',
  );
  // What stands below a row left out is left out as well, as far down as it goes.
  for (let again = true; again;) {
    const kept = new Set(rows.map((row) => row.key));
    again = drop(
      (row) => row.parentKey !== null && !kept.has(row.parentKey),
      (row) => `stands below “${row.parentKey ?? ''}”, which is not taken. Mend that first.`,
    );
  }
  return { rows, problems: problems.sort((a, b) => a.line - b.line) };
}

/** The columns of a table of objectives, in any order; `parent` may be missing. */
export const OBJECTIVE_COLUMNS = ['code', 'statement', 'parent'] as const;

/**
 * Objectives from the records of a table: its first row names the columns. Worked example: [['code','statement','parent'],
 * ['T1','Dress a blade',''], ['T1.1','Choose a stone','T1']] gives two rows, the second below the first.
 */
export function readObjectiveTable(records: readonly (readonly string[])[]): ObjectivesRead {
  const head = (records[0] ?? []).map((cell) => cell.trim().toLowerCase());
  const at = (name: (typeof OBJECTIVE_COLUMNS)[number]): number => head.indexOf(name);
  const missing = (['code', 'statement'] as const).filter((name) => at(name) < 0);
  if (missing.length > 0) {
    const text = `The first row names no column ${missing.map((m) => `“${m}”`).join(' and ')}. It reads: ${head.join(', ').slice(0, 120) || 'nothing'}. The columns are code, statement and, if they stand in a tree, parent.`;
    return { rows: [], problems: [{ line: 1, text }] };
  }
  const cell = (record: readonly string[], n: number): string => (n < 0 ? '' : (record[n] ?? '').trim());
  return checkObjectives(
    records.slice(1).flatMap((record, n): ObjectiveRow[] => {
      if (record.every((c) => c.trim() === '')) return [];
      const code = cell(record, at('code'));
      const parent = cell(record, at('parent'));
      return [{ key: code, code, statement: cell(record, at('statement')), parentKey: parent === '' ? null : parent, line: n + 2 }];
    }),
  );
}

/** A table that {@link readObjectiveTable} reads again as the same objectives. */
export function writeObjectiveTable(rows: readonly ObjectiveRow[]): string[][] {
  const codeOf = new Map(rows.map((row) => [row.key, row.code]));
  return [
    [...OBJECTIVE_COLUMNS],
    ...rows.map((row) => [row.code, row.statement, row.parentKey === null ? '' : (codeOf.get(row.parentKey) ?? '')]),
  ];
}

type Json = { readonly [name: string]: unknown };
const isObject = (value: unknown): value is Json => typeof value === 'object' && value !== null && !Array.isArray(value);
const text = (value: unknown): string => (typeof value === 'string' ? value.trim() : '');
const nodeOf = (value: unknown): string => (isObject(value) ? text(value.identifier) : '');

/**
 * Objectives from a competency framework file: the CFPackage of 1EdTech CASE 1.0 (items, and associations of the kind
 * isChildOf that say what stands below what; an association to the document itself is a root). The key is the item's
 * identifier, the code its humanCodingScheme, the statement its fullStatement. Items are ordered as their associations number
 * them, else as they stand. Worked example: one item and no association gives one root.
 */
export function readCompetencyFramework(json: unknown): ObjectivesRead {
  if (!isObject(json) || !Array.isArray(json.CFItems)) {
    const said = isObject(json) ? Object.keys(json).slice(0, 6).join(', ') : typeof json;
    return { rows: [], problems: [{ line: 1, text: `This is no competency framework: it holds no list “CFItems” (found: ${said}).` }] };
  }
  const documentId = isObject(json.CFDocument) ? text(json.CFDocument.identifier) : '';
  const parents = new Map<string, { parent: string | null; order: number }>();
  for (const link of Array.isArray(json.CFAssociations) ? (json.CFAssociations as unknown[]) : []) {
    if (!isObject(link) || link.associationType !== 'isChildOf') continue;
    const [child, parent] = [nodeOf(link.originNodeURI), nodeOf(link.destinationNodeURI)];
    const order = typeof link.sequenceNumber === 'number' ? link.sequenceNumber : Infinity;
    if (child !== '' && !parents.has(child)) parents.set(child, { parent: parent === documentId || parent === '' ? null : parent, order });
  }
  const rows = (json.CFItems as unknown[]).map((item, n): ObjectiveRow & { order: number } => {
    const one = isObject(item) ? item : {};
    const key = text(one.identifier);
    const place = parents.get(key);
    return {
      key,
      code: text(one.humanCodingScheme),
      statement: text(one.fullStatement),
      parentKey: place?.parent ?? null,
      line: n + 1,
      order: place?.order ?? Infinity,
    };
  });
  const sorted = rows.map((row, n) => ({ row, n })).sort((a, b) => (a.row.order === b.row.order ? a.n - b.n : a.row.order - b.row.order));
  return checkObjectives(
    sorted.map(({ row: { key, code, statement, parentKey, line } }): ObjectiveRow => ({ key, code, statement, parentKey, line })),
  );
}

export interface FrameworkHead {
  readonly identifier: string;
  readonly title: string;
  /** ISO text; the caller's clock. */
  readonly changedAt: string;
  readonly creator: string;
}

/**
 * A CFPackage of CASE 1.0 that {@link readCompetencyFramework} reads again as the same objectives. Addresses are URNs, since
 * nothing is published anywhere. Worked example: two rows, one below the other, give two CFItems and two isChildOf.
 */
export function writeCompetencyFramework(head: FrameworkHead, rows: readonly ObjectiveRow[]): Json {
  const uri = (id: string): string => `urn:uuid:${id}`;
  const node = (id: string, title: string): Json => ({ title, identifier: id, uri: uri(id) });
  const titleOf = new Map(rows.map((row) => [row.key, row.code === '' ? row.statement.slice(0, 60) : row.code]));
  return {
    CFDocument: {
      identifier: head.identifier,
      uri: uri(head.identifier),
      creator: head.creator,
      title: head.title,
      lastChangeDateTime: head.changedAt,
      CFPackageURI: node(head.identifier, head.title),
    },
    CFItems: rows.map((row) => ({
      identifier: row.key,
      uri: uri(row.key),
      fullStatement: row.statement,
      ...(row.code === '' ? {} : { humanCodingScheme: row.code }),
      lastChangeDateTime: head.changedAt,
      CFDocumentURI: node(head.identifier, head.title),
    })),
    CFAssociations: rows.map((row, n) => {
      const parent = row.parentKey ?? head.identifier;
      return {
        identifier: row.key.replace(/^.{8}/, (start) => [...start].reverse().join('')),
        uri: `urn:rosemary:association:${row.key}`,
        associationType: 'isChildOf',
        sequenceNumber: n + 1,
        originNodeURI: node(row.key, titleOf.get(row.key) ?? ''),
        destinationNodeURI: node(parent, titleOf.get(parent) ?? head.title),
        lastChangeDateTime: head.changedAt,
        CFDocumentURI: node(head.identifier, head.title),
      };
    }),
  };
}

export interface KnownObjective {
  readonly id: string;
  readonly source: string | null;
  readonly code: string;
  readonly statement: string;
  readonly parentId: string | null;
}
export interface ObjectiveMeeting {
  readonly row: ObjectiveRow;
  readonly what: 'add' | 'change' | 'same';
  readonly id: string | null;
}

/**
 * How each row meets what a course has already: by the identifier it was brought in with, else by its code (letters of either
 * size). Worked example: the code is here with another statement: `change`.
 */
export function meetObjectives(known: readonly KnownObjective[], rows: readonly ObjectiveRow[]): readonly ObjectiveMeeting[] {
  const bySource = new Map(known.flatMap((k) => (k.source === null ? [] : [[k.source, k]])));
  const byCode = new Map(known.flatMap((k) => (k.code === '' ? [] : [[k.code.toLowerCase(), k]])));
  const find = (row: ObjectiveRow): KnownObjective | undefined => bySource.get(row.key) ?? byCode.get(row.code.toLowerCase());
  const own = new Map(rows.map((row) => [row.key, find(row)]));
  return rows.map((row): ObjectiveMeeting => {
    const here = own.get(row.key);
    if (here === undefined) return { row, what: 'add', id: null };
    const parentId = row.parentKey === null ? null : (own.get(row.parentKey)?.id ?? '');
    const isSame = here.code === row.code && here.statement === row.statement && here.parentId === parentId;
    return { row, what: isSame ? 'same' : 'change', id: here.id };
  });
}
