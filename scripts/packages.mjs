// What the system must have before Rosemary can run: PostgreSQL's server and, for the tests, Chromium and its driver.
import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, readdirSync, mkdirSync, writeFileSync } from 'node:fs';

const POSTGRES_ROOT = '/usr/lib/postgresql';
export const isRoot = process.getuid?.() === 0;

function say(text) {
  process.stdout.write(`${text}\n`);
}

/** The bin directory of the newest PostgreSQL server on this machine, or null. */
export function postgresBin() {
  if (!existsSync(POSTGRES_ROOT)) return null;
  const versions = readdirSync(POSTGRES_ROOT)
    .filter((v) => existsSync(`${POSTGRES_ROOT}/${v}/bin/postgres`))
    .sort((a, b) => Number(b) - Number(a));
  return versions.length > 0 ? `${POSTGRES_ROOT}/${versions[0]}/bin` : null;
}

function install(packages) {
  if (!isRoot) {
    say(`Some system packages are missing. Run this one command, then start again:\n\n  sudo apt-get install -y ${packages.join(' ')}\n`);
    process.exit(1);
  }
  say(`Installing ${packages.join(', ')} from Debian…`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const apt = (args) => spawnSync('apt-get', args, { env, stdio: ['ignore', 'ignore', 'inherit'] }).status;
  if (apt(['install', '-y', '--no-install-recommends', ...packages]) !== 0) {
    apt(['update']);
    if (apt(['install', '-y', '--no-install-recommends', ...packages]) !== 0)
      throw new Error(`apt-get could not install ${packages.join(' ')}.`);
  }
}

/** Makes sure of a PostgreSQL server; Debian is told not to start a cluster of its own. */
export function ensurePostgres() {
  if (postgresBin() !== null) return;
  if (isRoot) {
    mkdirSync('/etc/postgresql-common', { recursive: true });
    if (!existsSync('/etc/postgresql-common/createcluster.conf'))
      writeFileSync('/etc/postgresql-common/createcluster.conf', 'create_main_cluster = false\n');
  }
  install(['postgresql']);
}

export function ensureBrowser() {
  if (existsSync('/usr/bin/chromium') && existsSync('/usr/bin/chromedriver')) return;
  install(['chromium', 'chromium-driver']);
}

/** Installs npm packages when the lock file is not the one they were installed from. */
export function ensureNpm(root, hash) {
  const stamp = `${root}/node_modules/.rosemary-lock`;
  const installed = existsSync(stamp) ? execFileSync('cat', [stamp], { encoding: 'utf8' }) : '';
  if (installed === hash) return;
  say('Installing npm packages…');
  const done = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: root,
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  if (done.status !== 0) throw new Error('npm ci failed; see above.');
  writeFileSync(stamp, hash);
}
