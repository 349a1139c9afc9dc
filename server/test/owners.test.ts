import { FLOORS, READS, SPINE, TABLES, VIEWS, WRITES } from '../src/owners.ts';
import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import ts from 'typescript';
import { rows, withDb } from '../src/platform/database.ts';
import { makeSchool, type TestSchool } from './school.ts';

let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('owners');
}, 60_000);
afterAll(() => school.close());

const ROOT = resolve(import.meta.dirname, '../src');
const FILES = readdirSync(ROOT, { recursive: true, encoding: 'utf8' }).filter(
  (f) => f.endsWith('.ts') && !f.endsWith('.test.ts') && f.includes('/'),
);
/** Each kind of item is a feature of its own; all of them stand on one floor. */
const featureOf = (file: string): string => {
  const [first = '', second = '', third] = file.split('/');
  return first === 'kinds' && third !== undefined ? `kinds/${second}` : first;
};
const floorOf = (feature: string): number | undefined => FLOORS[feature.split('/')[0] ?? ''];

interface Sql {
  readonly reads: ReadonlySet<string>;
  readonly writes: ReadonlySet<string>;
}
const KNOWN = new Set(Object.values(TABLES).flat());

/** The tables that statements in a text read and write. What is put together from parts is looked at as far as it is written out. */
export function tablesIn(text: string): Sql {
  const statement = text.replace(/--.*$/gm, '');
  const all = (pattern: RegExp): Set<string> =>
    new Set([...statement.matchAll(pattern)].flatMap((m) => VIEWS[m[1] ?? ''] ?? (KNOWN.has(m[1] ?? '') ? [m[1] ?? ''] : [])));
  if (!/\b(select|insert|update|delete|from|join)\b/.test(statement)) return { reads: new Set(), writes: new Set() };
  return {
    writes: all(/\b(?:insert into|(?<!for )update|delete from)\s+(\w+)/g),
    reads: all(/(?<!delete )\b(?:from|join|using)\s+(\w+)/g),
  };
}

/** Every text of a file that could be a statement. */
function textsOf(path: string): string[] {
  const found: string[] = [];
  const visit = (node: ts.Node): void => {
    if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) found.push(node.text);
    else if (ts.isTemplateExpression(node)) found.push(node.head.text + node.templateSpans.map((s) => `?${s.literal.text}`).join(''));
    ts.forEachChild(node, visit);
  };
  visit(ts.createSourceFile(path, readFileSync(path, 'utf8'), ts.ScriptTarget.Latest, true));
  return found;
}

const touched = new Map<string, { reads: Set<string>; writes: Set<string> }>();
for (const file of FILES) {
  const own = touched.get(featureOf(file)) ?? { reads: new Set(), writes: new Set() };
  touched.set(featureOf(file), own);
  for (const { reads, writes } of textsOf(join(ROOT, file)).map(tablesIn)) {
    for (const table of reads) own.reads.add(table);
    for (const table of writes) own.writes.add(table);
  }
}
const foreign = (feature: string, tables: Iterable<string>): string[] =>
  [...tables].filter((t) => !(TABLES[feature] ?? []).includes(t)).sort();

describe('the reading of statements', () => {
  it('tells what is written from what is read, and leaves locks and comments alone', () => {
    const { reads, writes } = tablesIn(`with gone as (delete from post where id = $1 returning id)
      update item i set title = 'from unit' -- from quiz
      from course c join term t on t.id = c.term_id where exists (select 1 from person p for update of p)`);
    expect([...writes].sort()).toEqual(['item', 'post']);
    expect([...reads].sort()).toEqual(['course', 'person', 'term', 'unit']);
    expect(tablesIn('a page from the course')).toEqual({ reads: new Set(['the'].filter((t) => KNOWN.has(t))), writes: new Set() });
  });
});

describe('the owners of tables', () => {
  it('are named for every table there is, each once, and are features', async () => {
    const { pool } = school;
    const there = await withDb(pool, false, (db) =>
      rows<{ name: string }>(db, "select tablename as name from pg_tables where schemaname = 'public' order by 1"),
    );
    expect(Object.values(TABLES).flat().sort()).toEqual(there.map((t) => t.name).sort());
    expect(Object.keys(TABLES).filter((feature) => !touched.has(feature))).toEqual([]);
    expect(SPINE.filter((table) => !KNOWN.has(table))).toEqual([]);
  });

  it('are known for what a view reads', async () => {
    const used = await withDb(school.pool, false, (db) =>
      rows<{ view: string; tables: string[] }>(
        db,
        `select v.relname as view, array_agg(distinct t.relname::text order by t.relname::text) as tables from pg_rewrite r join pg_class v on v.oid = r.ev_class
         join pg_depend d on d.objid = r.oid and d.refclassid = 'pg_class'::regclass and d.refobjid <> v.oid join pg_class t on t.oid = d.refobjid
         where v.relkind = 'v' and v.relnamespace = 'public'::regnamespace group by 1 order by 1`,
      ),
    );
    expect(Object.fromEntries(Object.entries(VIEWS).map(([view, tables]) => [view, [...tables].sort()]))).toEqual(
      Object.fromEntries(used.map((u) => [u.view, u.tables])),
    );
  });

  it.each([...touched])('%s writes its own tables, and others only where it is said why', (feature, { writes }) => {
    expect(foreign(feature, writes)).toEqual(Object.keys(WRITES[feature] ?? {}).sort());
  });

  it.each([...touched])('%s reads its own tables and the spine, and others only where it is said why', (feature, { reads }) => {
    expect(foreign(feature, reads).filter((table) => !SPINE.includes(table))).toEqual([...(READS[feature]?.tables ?? [])].sort());
  });

  it('have no exception for a feature that is not there', () => {
    expect([...Object.keys(READS), ...Object.keys(WRITES)].filter((feature) => !touched.has(feature))).toEqual([]);
  });
});

describe('the floors', () => {
  it('are named for every feature', () => {
    const folders = new Set(FILES.map((file) => file.split('/')[0] ?? ''));
    expect(Object.keys(FLOORS).sort()).toEqual([...folders].sort());
  });

  it('use only what is on them or below', () => {
    const climbs = FILES.flatMap((file) => {
      const from = floorOf(featureOf(file)) ?? -1;
      // What platform is told at its start comes to it as an argument; only types are named.
      return [...readFileSync(join(ROOT, file), 'utf8').matchAll(/^(?:import|export) [^;]*? from '(\.[^']+)'/gm)].flatMap((m) => {
        const to = relative(ROOT, resolve(ROOT, dirname(file), m[1] ?? ''));
        return to.includes('/') && (floorOf(featureOf(to)) ?? 9) > from ? [`${file} → ${to}`] : [];
      });
    });
    expect(climbs).toEqual([]);
  });
});
