// What a page loads of script before it is there, compressed: the closure of its static imports in the built pages. Fails over an aim.
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './prepare.mjs';

const AIM_KB = 160;
/** The chunks of each page beside the shell's own, and the most they may weigh together. */
const PAGES = {
  'the sign-in': [['SignInPage'], AIM_KB],
  'the Desk': [['TopBar', 'DeskPage'], AIM_KB],
  'a student’s week': [['TopBar', 'CourseFrame', 'ThisWeekPage'], AIM_KB],
  'taking a quiz': [['CourseFrame', 'TakingPage'], 130],
  'the Plan': [['TopBar', 'CourseFrame', 'PlanPage'], AIM_KB],
  'marking a work': [['TopBar', 'CourseFrame', 'WorkPage'], AIM_KB],
  'the gradebook': [['TopBar', 'CourseFrame', 'GradebookPage'], AIM_KB],
};

const folder = join(root, 'dist/web/assets');
const files = readdirSync(folder);
const importsOf = (file) =>
  [...readFileSync(join(folder, file), 'utf8').matchAll(/(?:import|from)\s*["']\.\/([^"']+\.js)["']/g)].map((m) => m[1]);
const entry = /assets\/(index-[^"]+\.js)/.exec(readFileSync(join(root, 'dist/web/index.html'), 'utf8'))?.[1];
const chunk = (name) => {
  const found = files.find((file) => file.startsWith(`${name}-`) && file.endsWith('.js'));
  if (found === undefined) throw new Error(`No chunk is called ${name}: name the page’s own in scripts/scriptBytes.mjs.`);
  return found;
};

/** Bytes of script, by Brotli, that a page waits for. */
function bytesOf(names) {
  const seen = new Set();
  const left = [entry, ...names.map(chunk)];
  for (let file = left.pop(); file !== undefined; file = left.pop()) {
    if (seen.has(file)) continue;
    seen.add(file);
    left.push(...importsOf(file));
  }
  return [...seen].reduce((sum, file) => sum + statSync(join(folder, `${file}.br`)).size, 0);
}

let over = 0;
for (const [page, [names, aim]] of Object.entries(PAGES)) {
  const kb = bytesOf(names) / 1000;
  if (kb > aim) over += 1;
  process.stdout.write(`script before ${page}: ${kb.toFixed(1)} kB by Brotli, of at most ${aim}\n`);
}
process.exitCode = over === 0 ? 0 : 1;
