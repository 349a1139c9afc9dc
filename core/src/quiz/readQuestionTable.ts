import { parsePoints } from '../exact/points.ts';
import type { DocumentNode } from '../document/plainText.ts';
import { fromCell, type FileAt } from './documentCell.ts';
import type { AcceptedText, Choice, NumberRules, Parameter, QuestionKey, QuestionKind, Region, TextRules, Tolerance } from './question.ts';
import { QUESTION_COLUMNS, type QuestionRow, type TableQuestion } from './questionTable.ts';
import { KIND_WORDS } from './drawInWords.ts';

/** What a cell does not say in a way that is understood: thrown here alone, and caught where a row is read. */
class Unread extends Error {}
const fail = (column: string, text: string, mend: string): never => {
  throw new Unread(`${column}: “${text.length > 60 ? `${text.slice(0, 59)}…` : text}” ${mend}`);
};

const DECIMAL = /^-?\d+(\.\d+)?$/;
function shareOf(text: string, line: string): number {
  if (!DECIMAL.test(text)) fail('answers', line, 'does not begin with what it gives in percent, such as “100: ”.');
  const share = Math.round(Number(text) * 1000);
  if (Math.abs(share) > 100_000) fail('answers', line, 'gives more than 100 percent.');
  return share;
}
/** A line as what it gives and what it is. */
function sharedLine(line: string): { share: number; rest: string } {
  const at = line.indexOf(':');
  if (at < 0) fail('answers', line, 'has no colon after what it gives, as in “100: lever”.');
  return { share: shareOf(line.slice(0, at).trim(), line), rest: line.slice(at + 1).trim() };
}
function unquoted(text: string, line: string): string {
  if (!text.startsWith('"')) return text;
  try {
    const read: unknown = JSON.parse(text);
    if (typeof read === 'string') return read;
  } catch {
    // Said below.
  }
  return fail('answers', line, 'has a quotation mark that is not closed.');
}
function tolerance(text: string, line: string): Tolerance {
  const figures = /^(\d+) figures$/.exec(text);
  if (figures !== null) return { kind: 'significant', figures: Number(figures[1]) };
  const amount = /^±\s*([\d.eE+-]+)\s*(%?)$/.exec(text);
  if (amount === null) return fail('answers', line, 'has no tolerance that is understood: write ±0.5, ±2% or 3 figures.');
  const [, value = '', isShare = ''] = amount;
  return isShare === '' ? { kind: 'absolute', amount: value } : { kind: 'relative', percent: value };
}

interface Reading {
  readonly row: QuestionRow;
  readonly lines: readonly string[];
  readonly rules: readonly string[];
  readonly newId: () => string;
  readonly fileAt: FileAt;
  readonly problems: string[];
}
const noPlace = (): null => null;
function documentOf(r: Reading, text: string, placeOf: (inside: string) => DocumentNode | null = noPlace): DocumentNode {
  const read = fromCell(text, placeOf, r.fileAt);
  r.problems.push(...read.problems);
  return read.document;
}
/** Takes the rules that are known out of the cell; one that is left over is named. */
function rulesOf(r: Reading, known: Readonly<Record<string, (value: string) => void>>): void {
  for (const rule of r.rules) {
    const [name = '', ...rest] = rule.split(':');
    const take = known[rule] ?? known[`${name.trim()}:`];
    if (take === undefined) fail('rules', rule, `is no rule of ${KIND_WORDS[r.row.kind as QuestionKind]}.`);
    else take(rest.join(':').trim());
  }
}

function choices(r: Reading): Choice[] {
  const found: Choice[] = [];
  for (const line of r.lines) {
    const last = found.at(-1);
    if (line.startsWith('>') && last !== undefined) found[found.length - 1] = { ...last, feedback: documentOf(r, line.slice(1).trim()) };
    else {
      const { share, rest } = sharedLine(line);
      found.push({ id: r.newId(), words: documentOf(r, rest), share, feedback: null });
    }
  }
  return found;
}
function accepted(line: string): AcceptedText {
  const { share, rest } = sharedLine(line);
  const pattern = /^\/(.*)\/$/s.exec(rest);
  return pattern === null ? { text: unquoted(rest, line), isPattern: false, share } : { text: pattern[1] ?? '', isPattern: true, share };
}
function numbers(r: Reading): Omit<NumberRules, 'accepted'> {
  let rules: Omit<NumberRules, 'accepted'> = { units: [], isUnitNeeded: false, decimals: null, isSignFree: false };
  rulesOf(r, {
    'units:': (value) => {
      const units = value.split(',').map((unit) => {
        const [, name = '', factor = ''] =
          /^\s*(.+?)\s+(\S+)\s*$/.exec(unit) ?? fail('rules', unit, 'is no unit with its factor, such as “mm 0.001”.');
        return { name, factor };
      });
      rules = { ...rules, units };
    },
    'unit needed': () => (rules = { ...rules, isUnitNeeded: true }),
    'decimals:': (value) => (rules = { ...rules, decimals: Number(value) }),
    'either sign': () => (rules = { ...rules, isSignFree: true }),
  });
  return rules;
}
function texts(r: Pick<Reading, 'rules'> & Reading): Pick<TextRules, 'caseMatters' | 'spaceMatters'> {
  const found = { caseMatters: false, spaceMatters: false };
  rulesOf(r, {
    'case matters': () => (found.caseMatters = true),
    'spaces matter': () => (found.spaceMatters = true),
  });
  return found;
}
function calculated(r: Reading): Extract<QuestionKey, { kind: 'calculated' }> {
  const [first = '', ...rest] = r.lines;
  const [, formula = '', near = ''] =
    /^formula:\s*(.*?)\s*\|\s*(.*)$/.exec(first) ??
    fail('answers', first, 'is no formula with its tolerance, such as “formula: a / b | ±1%”.');
  const parameters: Parameter[] = [];
  const conditions: string[] = [];
  for (const line of rest) {
    const condition = /^if\s+(.*)$/.exec(line);
    const [, name = '', from = '', to = '', step = '', decimals = ''] =
      /^(\w+):\s*(\S+) to (\S+) step (\S+), (\d+) decimals?$/.exec(line) ?? [];
    if (condition !== null) conditions.push(condition[1] ?? '');
    else if (name === '')
      fail('answers', line, 'is no drawn number, such as “a: 1 to 10 step 1, 0 decimals”, and no condition after “if”.');
    else parameters.push({ name, from, to, step, decimals: Number(decimals) });
  }
  return { kind: 'calculated', question: { parameters, conditions, formula, tolerance: tolerance(near, first) }, rules: numbers(r) };
}
interface BlankRead {
  readonly id: string;
  readonly size: number;
  readonly weight: number;
  readonly rules: TextRules;
}
function blanks(r: Reading): BlankRead[] {
  const found: BlankRead[] = [];
  for (const line of r.lines) {
    const head = /^\{(\d+)\}\s*(.*)$/.exec(line);
    if (head === null) {
      const last = found.at(-1);
      if (last === undefined) fail('answers', line, 'stands before any place, such as “{1} weight 50”.');
      else found[found.length - 1] = { ...last, rules: { ...last.rules, accepted: [...last.rules.accepted, accepted(line)] } };
      continue;
    }
    const blank = { id: r.newId(), size: 0, weight: 0, rules: { accepted: [], caseMatters: false, spaceMatters: false } as TextRules };
    for (const part of (head[2] ?? '').split(';').map((p) => p.trim())) {
      const number = /^(weight|size) (\d+(?:\.\d+)?)$/.exec(part);
      if (number !== null && number[1] === 'weight') blank.weight = Math.round(Number(number[2]) * 1000);
      else if (number !== null) blank.size = Number(number[2]);
      else if (part === 'case matters') blank.rules = { ...blank.rules, caseMatters: true };
      else if (part === 'spaces matter') blank.rules = { ...blank.rules, spaceMatters: true };
      else if (part !== '') fail('answers', part, 'is not said of a place: weight, size, case matters, spaces matter.');
    }
    found.push(blank);
  }
  return found;
}
function pair(line: string): { left: string; right: string } {
  const found = /^("(?:[^"\\]|\\.)*"|(?!")[^=]*?)\s*=\s*("(?:[^"\\]|\\.)*"|(?!")[^=]*)$/.exec(line);
  if (found === null) return fail('answers', line, 'is no pair, such as “lever = locks the train”.');
  return { left: unquoted((found[1] ?? '').trim(), line), right: unquoted((found[2] ?? '').trim(), line) };
}
function region(line: string): { share: number; region: Region } {
  const { share, rest } = sharedLine(line);
  const [shape = '', ...words] = rest.split(/\s+/);
  const n = words.map(Number);
  const [a = 0, b = 0, c = 0, d = 0] = n;
  const isFour = n.length === 4 && n.every(Number.isFinite);
  if (shape === 'rectangle' && isFour) return { share, region: { shape, from: { x: a, y: b }, to: { x: c, y: d } } };
  if (shape === 'ellipse' && isFour) return { share, region: { shape, centre: { x: a, y: b }, radius: { x: c, y: d } } };
  if (shape === 'polygon' && n.length >= 6 && n.length % 2 === 0 && n.every(Number.isFinite)) {
    const corners = Array.from({ length: n.length / 2 }, (_, k) => ({ x: n[2 * k] ?? 0, y: n[2 * k + 1] ?? 0 }));
    return { share, region: { shape, corners } };
  }
  return fail('answers', line, 'is no place in a picture: rectangle, ellipse or polygon with its numbers.');
}

interface KeyRead {
  readonly key: QuestionKey;
  readonly placeOf?: (inside: string) => DocumentNode | null;
  readonly picture?: TableQuestion['picture'];
}
function pictureOf(r: Reading): TableQuestion['picture'] {
  let picture: TableQuestion['picture'] = null;
  rulesOf(r, {
    'picture:': (value) => {
      const [, fileId = '', alt = '""'] = /^file:(\S+)\s*(.*)$/.exec(value) ?? fail('rules', value, 'names no picture.');
      const file = r.fileAt(fileId);
      if (file === null) r.problems.push('its picture is not here; choose it again');
      else picture = { fileId, src: file.src, alt: unquoted(alt, value) };
    },
  });
  return picture;
}
function readKey(r: Reading, kind: QuestionKind): KeyRead {
  switch (kind) {
    case 'single':
    case 'truth':
    case 'several': {
      let [rule, hasDontKnow]: ['less wrong' | 'all or nothing' | 'own values', boolean] = ['less wrong', false];
      const isSeveral = kind === 'several';
      rulesOf(r, {
        'I do not know': () => (hasDontKnow = true),
        ...(isSeveral
          ? { 'less wrong': () => undefined, 'all or nothing': () => (rule = 'all or nothing'), 'own values': () => (rule = 'own values') }
          : {}),
      });
      const found = choices(r);
      return { key: isSeveral ? { kind, choices: found, rule, hasDontKnow } : { kind, choices: found, hasDontKnow } };
    }
    case 'numeric': {
      const found = r.lines.map((line) => {
        const { share, rest } = sharedLine(line);
        const [, value = '', near = ''] = /^(\S+)\s*(.*)$/.exec(rest) ?? fail('answers', line, 'has no number.');
        return { value, share, tolerance: near === '' ? ({ kind: 'absolute', amount: '0' } as const) : tolerance(near, line) };
      });
      return { key: { kind, rules: { ...numbers(r), accepted: found } } };
    }
    case 'calculated': {
      const key = calculated(r);
      const names = new Set(key.question.parameters.map((p) => p.name));
      return { key, placeOf: (inside) => (names.has(inside) ? { type: 'value', attrs: { name: inside } } : null) };
    }
    case 'short':
      return { key: { kind, rules: { accepted: r.lines.map(accepted), ...texts(r) } } };
    case 'blanks': {
      const found = blanks(r);
      rulesOf(r, {});
      const placeOf = (inside: string): DocumentNode | null => {
        const blank = found[Number(inside) - 1];
        return blank === undefined ? null : { type: 'blank', attrs: { id: blank.id, size: blank.size } };
      };
      return { key: { kind, blanks: found.map(({ id, weight, rules }) => ({ id, weight, rules })) }, placeOf };
    }
    case 'matching':
      rulesOf(r, {});
      return { key: { kind, pairs: r.lines.map(pair) } };
    case 'ordering': {
      let isAllOrNothing = false;
      rulesOf(r, { 'all or nothing': () => (isAllOrNothing = true) });
      return { key: { kind, order: r.lines.map((line) => unquoted(line, line)), isAllOrNothing } };
    }
    case 'hotspot':
      return { key: { kind, regions: r.lines.map((line) => ({ id: r.newId(), ...region(line) })) }, picture: pictureOf(r) };
    default:
      rulesOf(r, {});
      return { key: { kind } };
  }
}

const list = (text: string | undefined): string[] =>
  (text ?? '')
    .split(',')
    .map((w) => w.trim())
    .filter((w) => w !== '');
const LEVELS = ['easy', 'medium', 'hard'] as const;

export type QuestionRowRead =
  | { readonly ok: true; readonly question: TableQuestion; readonly problems: readonly string[] }
  | { readonly ok: false; readonly reason: string };

/**
 * Reads a row that {@link questionRow} wrote, or a teacher. Columns that are not there are empty; what is not understood is named by its
 * column, its text and the mend, and nothing is made of the row. `newId` gives identifiers; `fileAt` finds a file that is named.
 * Worked example: kind “short”, answers “100: pallet” is a short text that takes “pallet”.
 */
export function readQuestionRow(row: QuestionRow, newId: () => string, fileAt: FileAt): QuestionRowRead {
  const kind = (row.kind ?? '').trim() as QuestionKind;
  if (!(kind in KIND_WORDS)) return { ok: false, reason: `kind: “${kind}” is none. There are: ${Object.keys(KIND_WORDS).join(', ')}.` };
  const strange = Object.keys(row).find((column) => !(QUESTION_COLUMNS as readonly string[]).includes(column));
  if (strange !== undefined) return { ok: false, reason: `There is no column “${strange}”. There are: ${QUESTION_COLUMNS.join(', ')}.` };
  const lines = (row.answers ?? '')
    .split(/\r?\n/)
    .map((line) => line.trim())
    .filter((line) => line !== '');
  const rules = (row.rules ?? '')
    .split(';')
    .map((rule) => rule.trim())
    .filter((rule) => rule !== '');
  const reading: Reading = { row: { ...row, kind }, lines, rules, newId, fileAt, problems: [] };
  try {
    const level = LEVELS.find((l) => l === (row.level ?? '').trim()) ?? null;
    if (level === null && (row.level ?? '').trim() !== '') fail('level', row.level ?? '', `is none of ${LEVELS.join(', ')}.`);
    const points = (row.points ?? '').trim() === '' ? null : parsePoints(row.points ?? '');
    if (points !== null && !points.ok) fail('points', row.points ?? '', 'is no number of points.');
    const { key, placeOf, picture = null } = readKey(reading, kind);
    const said = (text: string | undefined): DocumentNode | null => ((text ?? '') === '' ? null : documentOf(reading, text ?? ''));
    const question: TableQuestion = {
      ...{ title: (row.title ?? '').trim(), level, tags: list(row.tags), objectives: list(row.objectives) },
      points: points?.ok === true ? points.value : null,
      words: documentOf(reading, row.words ?? '', placeOf),
      feedback: { right: said(row.right), wrong: said(row.wrong), general: said(row.always) },
      ...{ key, picture },
    };
    return { ok: true, question, problems: reading.problems };
  } catch (error) {
    if (error instanceof Unread) return { ok: false, reason: error.message };
    throw error;
  }
}
