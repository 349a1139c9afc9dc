/** The first record of a table as it is read from its text: what parts its columns, their names, and where the rest begins. */
export interface TableHead {
  readonly delimiter: ',' | ';' | '\t';
  readonly names: readonly string[];
  /** Where the second record begins in the text. */
  readonly end: number;
}

/** Where the first record ends: the first line break that stands in no quotes. */
function endOfHead(text: string): number {
  let isQuoted = false;
  for (let n = 0; n < text.length; n += 1) {
    if (text[n] === '"') isQuoted = !isQuoted;
    else if (text[n] === '\n' && !isQuoted) return n + 1;
  }
  return text.length;
}
const outsideQuotes = (line: string): string => line.replace(/"(?:[^"]|"")*"/g, '');

/**
 * Reads the names of the columns of a table (CSV as RFC 4180 has it, or with semicolons or tabs).
 *
 * Convention: whichever of comma, semicolon and tab stands most often outside quotes parts the columns; a byte-order mark is no part of
 * the first name; quotes round a name fall away.
 * Worked example: `readHead('Mail;"Name, first"\nx;y')` has the names `Mail` and `Name, first`, parted by `;`.
 */
export function readHead(text: string): TableHead {
  const start = text.startsWith('\ufeff') ? 1 : 0;
  const end = endOfHead(text);
  const line = text.slice(start, end).replace(/\r?\n$/, '');
  const bare = outsideQuotes(line);
  const many = (sign: string): number => bare.split(sign).length;
  // Of signs that stand equally often the one that names hold least.
  const delimiter = (['\t', ';', ','] as const).reduce((best, sign) => (many(sign) > many(best) || many(best) === 1 ? sign : best));
  const names: string[] = [];
  let name = '';
  let isQuoted = false;
  for (const sign of line) {
    if (sign === '"') isQuoted = !isQuoted;
    if (sign !== delimiter || isQuoted) name += sign;
    else {
      names.push(name);
      name = '';
    }
  }
  names.push(name);
  return {
    delimiter,
    names: names.map((one) =>
      one
        .trim()
        .replace(/^"([\s\S]*)"$/, '$1')
        .replace(/""/g, '"')
        .trim(),
    ),
    end,
  };
}

const bare = (name: string): string =>
  name
    .normalize('NFD')
    .toLowerCase()
    .replace(/[^a-z0-9]/g, '');
/** What schools and teachers call the columns of our lists. */
const ALSO: Readonly<Record<string, readonly string[]>> = {
  email: ['mail', 'emailaddress', 'eMail', 'address', 'login', 'username'],
  'given name': ['firstname', 'forename', 'first', 'vorname', 'prenom', 'nome', 'nombre'],
  'family name': ['lastname', 'surname', 'last', 'name', 'nachname', 'nom', 'apelido', 'apellidos'],
  id: ['studentid', 'number', 'studentnumber', 'sourcedid', 'matriculation'],
  code: ['coursecode', 'course', 'subject', 'module'],
  run: ['semester', 'session', 'offering', 'year'],
  title: ['coursetitle', 'coursename', 'name'],
  term: ['period', 'academicsession', 'semester'],
  section: ['class', 'group', 'classgroup'],
  instructor: ['teacher', 'lecturer', 'teacheremail'],
  role: ['type', 'as', 'status'],
  group: ['groupname', 'team', 'teamname', 'gruppe', 'groupe', 'grupo'],
  student: ['studentemail', 'studentname', 'email', 'mail', 'emailaddress', 'member', 'learner', 'name', 'studentid'],
};

/**
 * Which columns of a file are probably the wanted ones, by their names or by what others call them: the number of the column, each used
 * once; null where none is like it.
 * Worked example: wanted `email` and `family name` among `Surname`, `E-Mail` are the columns 1 and 0.
 */
export function suggestColumns(wanted: readonly string[], names: readonly string[]): readonly (number | null)[] {
  const taken = new Set<number>();
  const take = (is: (name: string) => boolean): number | null => {
    const at = names.findIndex((name, n) => !taken.has(n) && is(bare(name)));
    if (at < 0) return null;
    taken.add(at);
    return at;
  };
  // What has the very name comes before what others call it.
  const exact = wanted.map((want) => take((name) => name === bare(want)));
  return wanted.map((want, n) => exact[n] ?? take((name) => (ALSO[want.toLowerCase()] ?? []).some((word) => bare(word) === name)));
}

/**
 * The same table with other names for some of its columns: `chosen` gives, for each of our names, the number of its column. A column that
 * is not chosen keeps its name, unless it would be taken for one of ours.
 * Worked example: `renameColumns('Mail,Name\nx,y', new Map([['email', 0]]))` is `email,Name\nx,y`.
 */
export function renameColumns(text: string, chosen: ReadonlyMap<string, number>): string {
  const { delimiter, names, end } = readHead(text);
  const ours = new Map([...chosen].map(([name, at]) => [at, name]));
  const mine = new Set([...chosen.keys()].map(bare));
  const written = names.map((name, n) => ours.get(n) ?? (mine.has(bare(name)) ? `other ${name}` : name));
  const quoted = written.map((name) => (/["\r\n]/.test(name) || name.includes(delimiter) ? `"${name.replace(/"/g, '""')}"` : name));
  return `${quoted.join(delimiter)}\n${text.slice(end)}`;
}
