// Builds the pages (with Brotli beside each file) and the programs of the server; does nothing when nothing changed.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { cpSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync, constants } from 'node:zlib';

const SOURCES = [
  'core/src',
  'api/src',
  'server/src',
  'web',
  'demo/src',
  'demo/media',
  'standins',
  'package-lock.json',
  'scripts/build.mjs',
];

function* files(path) {
  if (statSync(path).isFile()) {
    yield path;
    return;
  }
  for (const name of readdirSync(path).sort()) if (name !== 'node_modules' && name !== 'dist') yield* files(join(path, name));
}

function hashOf(root) {
  const hash = createHash('sha256');
  for (const source of SOURCES) for (const file of files(join(root, source))) hash.update(file).update(readFileSync(file));
  return hash.digest('hex');
}

function compress(folder) {
  for (const file of files(folder)) {
    if (!/\.(js|css|html|svg|mjs|json)$/.test(file)) continue;
    writeFileSync(`${file}.br`, brotliCompressSync(readFileSync(file), { params: { [constants.BROTLI_PARAM_QUALITY]: 11 } }));
  }
}

export async function build(root) {
  const stamp = join(root, 'dist/stamp');
  const hash = hashOf(root);
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === hash) return;
  process.stdout.write('Building…\n');
  rmSync(join(root, 'dist'), { recursive: true, force: true });
  mkdirSync(join(root, 'dist'));
  const vite = spawnSync(process.execPath, [join(root, 'node_modules/vite/bin/vite.js'), 'build', '--logLevel', 'warn'], {
    cwd: join(root, 'web'),
    stdio: ['ignore', 'inherit', 'inherit'],
  });
  if (vite.status !== 0) throw new Error('The pages could not be built; see above.');
  // What PDF files lean on when they carry no fonts of their own.
  for (const [from, to] of [
    ['standard_fonts', 'fonts'],
    ['cmaps', 'cmaps'],
  ])
    cpSync(join(root, 'node_modules/pdfjs-dist', from), join(root, 'dist/web/pdf', to), { recursive: true });
  // Beside the program as beside its source.
  cpSync(join(root, 'demo/media'), join(root, 'dist/media'), { recursive: true });
  cpSync(join(root, 'standins/texts'), join(root, 'dist/texts'), { recursive: true });
  compress(join(root, 'dist/web'));
  const { build: bundle } = await import('esbuild');
  const own = ['core', 'api', 'server', 'standins'];
  await bundle({
    entryPoints: {
      main: join(root, 'server/src/main.ts'),
      prepare: join(root, 'demo/src/prepare.ts'),
      // Threads of the server.
      readPage: join(root, 'server/src/paperTest/readPage.ts'),
      checkKeys: join(root, 'server/src/bank/checkKeys.ts'),
      openFile: join(root, 'server/src/openFile/openFile.ts'),
      collection: join(root, 'standins/src/main.ts'),
      registrar: join(root, 'standins/src/registrarMain.ts'),
    },
    outdir: join(root, 'dist/server'),
    outExtension: { '.js': '.mjs' },
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    packages: 'external',
    alias: {
      ...Object.fromEntries(own.map((name) => [`@rosemary/${name}`, join(root, name, 'src/index.ts')])),
      '@rosemary/api/endpoints': join(root, 'api/src/endpoints.ts'),
    },
    sourcemap: 'inline',
    logLevel: 'warning',
  });
  writeFileSync(stamp, hash);
}
