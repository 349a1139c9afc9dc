// The simulated outside services that start with Rosemary, each a process of its own on loopback.
import { randomBytes } from 'node:crypto';
import { spawn } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './prepare.mjs';

/** Starts one of them; null where it does not say within ten seconds where it is: everything else works without it. */
function startStandin(name, env, said) {
  const child = spawn(process.execPath, [join(root, `dist/server/${name}.mjs`)], {
    cwd: root,
    // A port of its own: the one named for Rosemary is not for it.
    env: { ...process.env, PORT: '0', ...env },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  return new Promise((done) => {
    const give = (found) => {
      clearTimeout(late);
      done(found === null ? null : { ...found, stop: () => child.kill('SIGTERM') });
    };
    const late = setTimeout(() => {
      child.kill('SIGTERM');
      give(null);
    }, 10_000);
    child.stdout.on('data', (bytes) => {
      const found = said.exec(String(bytes));
      if (found !== null) give(found.groups);
    });
    child.on('exit', () => give(null));
  });
}

export const startCollection = () => startStandin('collection', {}, /^collection (?<url>\S+)/m);

const DAY = 86_400_000;
/** The Friday after next Wednesday at 17:00, so that the window is open for some days. */
function closingFriday(now) {
  const day = new Date(now + 3 * DAY);
  day.setUTCDate(day.getUTCDate() + ((5 - day.getUTCDay() + 7) % 7));
  day.setUTCHours(17, 0, 0, 0);
  return day.toISOString();
}

/** The lists of the registrar: the sections and students of the school, as he knew them when grades were agreed, and what was handed over to him before. */
async function readLists(databaseUrl) {
  const { default: pg } = await import('pg');
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  try {
    const people = await client.query(
      `select coalesce(s.source, s.id::text) as section, s.title || ', ' || c.code || ' ' || c.run as title, coalesce(p.source, p.id::text) as key, p.family_name || ', ' || p.given_name as name,
              coalesce((select t.email::text from enrolment i join person t on t.id = i.person_id where i.course_id = c.id and i.role = 'instructor' and i.is_of_record and i.withdrawn_at is null limit 1), '') as teacher
       from enrolment e
       left join lateral (select g.section_id from agreed_grade g where g.enrolment_id = e.id order by g.id desc limit 1) agreed on true
       join section s on s.id = coalesce(agreed.section_id, e.section_id) join course c on c.id = s.course_id join person p on p.id = e.person_id
       where e.role = 'student' and not e.is_sample and s.removed_at is null and c.removed_at is null order by 2, 4`,
    );
    const held = await client.query(
      `select distinct on (r.enrolment_id) coalesce(s.source, s.id::text) as section, coalesce(p.source, p.id::text) as key, a.sent_letter as letter, a.last_day::text as last_day, a.expires_on::text as expires_on,
              a.lapses_to, r.receipt, r.settled_at as at, f.receipt as corrects
       from handover_row r join agreed_grade a on a.id = r.agreed_id join section s on s.id = r.section_id join enrolment e on e.id = r.enrolment_id join person p on p.id = e.person_id
       left join handover_row f on f.id = r.corrects_id where r.state = 'accepted' order by r.enrolment_id, r.place desc`,
    );
    const clock = await client.query('select clock_offset_seconds as seconds from school');
    const fixed = process.env.ROSEMARY_CLOCK;
    const offset = fixed === undefined ? Number(clock.rows[0]?.seconds ?? 0) * 1000 : Date.parse(fixed) - Date.now();
    const sections = {};
    for (const { section, title, teacher, key, name } of people.rows) {
      sections[section] ??= { title, teacher, students: [] };
      sections[section].students.push({ key, name });
    }
    const grades = Object.fromEntries(
      held.rows.map((h) => [
        `${h.section} ${h.key}`,
        {
          ...{ student: h.key, letter: h.letter, number: null, lastDay: h.last_day, expiresOn: h.expires_on, lapsesTo: h.lapses_to },
          ...{ receipt: h.receipt, at: h.at.toISOString(), corrects: h.corrects },
        },
      ]),
    );
    const now = Date.now() + offset;
    const window = { opensAt: new Date(now - 3 * DAY).toISOString(), closesAt: closingFriday(now) };
    return { offset, lists: { sections, grades, window } };
  } finally {
    await client.end();
  }
}

/** Starts the registrar with the lists of the school; what it is sent it keeps in a file of its own in `folder`. */
export async function startRegistrar(databaseUrl, folder) {
  const { offset, lists } = await readLists(databaseUrl);
  mkdirSync(folder, { recursive: true });
  const file = join(folder, 'registrar-lists.json');
  writeFileSync(file, JSON.stringify(lists));
  const token = randomBytes(24).toString('hex');
  const started = await startStandin(
    'registrar',
    {
      REGISTRAR_LISTS: file,
      REGISTRAR_FILE: join(folder, 'registrar.json'),
      REGISTRAR_TOKEN: token,
      REGISTRAR_CLOCK_OFFSET: String(offset),
      REGISTRAR_PAGE_PORT: process.env.ROSEMARY_REGISTRAR_PAGE_PORT ?? '0',
    },
    /^registrar (?<url>\S+) page (?<page>\S+)/m,
  );
  return started === null ? null : { ...started, env: { ROSEMARY_REGISTRAR_URL: started.url, ROSEMARY_REGISTRAR_TOKEN: token } };
}
