import { randomBytes } from 'node:crypto';
import { createWriteStream, openAsBlob, readFileSync } from 'node:fs';
import { mkdtemp, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { ZipFile } from 'yazl';
import { makePool, run, withDb } from '@rosemary/server';
import { call, enter, server } from './served.ts';

/** A package of 200 MB brought in: how long, and how much memory the server takes for it against one of 20 MB. */
const FILE_BYTES = 10_485_760;
const CHUNK = 262_144;
const print = (text: string): void => {
  process.stdout.write(`${text}\n`);
};

function* filler(size: number): Generator<Buffer> {
  yield Buffer.from('%PDF-1.4\n');
  for (let left = size; left > 0; left -= CHUNK) yield randomBytes(Math.min(CHUNK, left));
}

/** A cartridge of a page and so many files of 10 MB that do not pack any smaller. */
async function makePackage(path: string, files: number): Promise<void> {
  const zip = new ZipFile();
  const names = Array.from({ length: files }, (_, n) => `files/${n}.pdf`);
  const resources = names.map(
    (name, n) => `<resource identifier="f${n}" type="webcontent" href="${name}"><file href="${name}"/></resource>`,
  );
  zip.addBuffer(
    Buffer.from(
      `<manifest identifier="m"><metadata><schema>IMS Common Cartridge</schema><schemaversion>1.3.0</schemaversion></metadata><organizations><organization identifier="o" structure="rooted-hierarchy"><item identifier="r"><item identifier="u"><title>Large</title><item identifier="p" identifierref="page"><title>Page</title></item></item></item></organization></organizations><resources><resource identifier="page" type="webcontent" href="p.html"><file href="p.html"/></resource>${resources.join('')}</resources></manifest>`,
    ),
    'imsmanifest.xml',
  );
  zip.addBuffer(Buffer.from(`<h1>Large</h1>${names.map((n) => `<p><a href="${n}">${n}</a></p>`).join('')}`), 'p.html');
  for (const name of names) zip.addReadStream(Readable.from(filler(FILE_BYTES)), name, { compress: false });
  zip.end();
  await pipeline(zip.outputStream, createWriteStream(path));
}

const memory = (what: 'VmHWM' | 'VmRSS'): number => {
  const found = new RegExp(`${what}:\\s+(\\d+) kB`).exec(readFileSync(`/proc/${server.pid ?? 0}/status`, 'utf8'));
  return Number(found?.[1] ?? 0) / 1024;
};
/** The floor: the same bytes, in the same chunks, put into a table by plain SQL. */
async function bareInsert(files: number): Promise<number> {
  const pool = makePool(process.env.ROSEMARY_DATABASE_URL ?? '', 1);
  try {
    return await withDb(pool, true, async (db) => {
      await run(db, 'create temporary table bare (n int, bytes bytea) on commit drop');
      await run(db, 'alter table bare alter column bytes set storage external');
      const at = performance.now();
      for (let n = 0; n < (files * FILE_BYTES) / CHUNK; n += 1) await run(db, 'insert into bare values ($1, $2)', [n, randomBytes(CHUNK)]);
      return performance.now() - at;
    });
  } finally {
    await pool.end();
  }
}

const folder = await mkdtemp(join(tmpdir(), 'rosemary-bench-package-'));
try {
  const courses = await enter();
  const courseId = courses.find((c) => c.code === 'HOR-205')?.id ?? '';
  const idle = memory('VmHWM');
  for (const files of [2, 20]) {
    const path = join(folder, `${files}.imscc`);
    await makePackage(path, files);
    const { size } = await stat(path);
    for (const [what, end] of [
      ['looked at', '/preview'],
      ['brought in', ''],
    ] as const) {
      const form = new FormData();
      form.append('file', await openAsBlob(path), 'large.imscc');
      const at = performance.now();
      const done = await call<{ files: number; problems: string[] }>('POST', `/courses/${courseId}/archive${end}`, form);
      const ms = performance.now() - at;
      const rate = size / 1_048_576 / (ms / 1000);
      print(
        `package of ${(size / 1_048_576).toFixed(0)} MB ${what}: ${(ms / 1000).toFixed(2)} s (${rate.toFixed(0)} MB/s, ${done.files} files, ${done.problems.length} problems); the server at most ${memory('VmHWM').toFixed(0)} MB, ${idle.toFixed(0)} before it began`,
      );
      if (end === '') {
        const bare = await bareInsert(files);
        print(`  floor: the same bytes by plain insert ${(bare / 1000).toFixed(2)} s; ratio ${(ms / bare).toFixed(2)}`);
      }
    }
  }
} finally {
  server.kill('SIGTERM');
  await rm(folder, { recursive: true, force: true });
}
