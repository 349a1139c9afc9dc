// What pages are made of: no control, table or dialog of the browser itself stands outside `web/src/parts`, and styles there do not grow.
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';

const RAW = /<(button|input|select|textarea|table|dialog|details|progress|meter)\b/g;
/** Parts that stand with their feature, since nobody else uses them: the grid of the gradebook and the answers of a quiz. */
const OF_A_FEATURE = /^web\/src\/(gradebook\/(Book\w+|DotStrip)|questions\/\w+Answer)\.vue$/;
/** Lines of style in pages, to fall to 3,000: lower it whenever they fall. */
const MOST_STYLE_LINES = 5_420;

const files = execFileSync('git', ['ls-files', 'web/src/*.vue'], { encoding: 'utf8' })
  .split('\n')
  .filter((file) => file !== '' && !file.startsWith('web/src/parts/') && !OF_A_FEATURE.test(file));
let raw = 0;
let styleLines = 0;
for (const file of files) {
  const text = readFileSync(file, 'utf8');
  const template = /<template>[\s\S]*<\/template>/.exec(text)?.[0] ?? '';
  const found = [...template.matchAll(RAW)].map((m) => m[1]);
  if (found.length > 0) {
    raw += found.length;
    process.stdout.write(`${file}: ${found.join(', ')}; use the part for it in web/src/parts\n`);
  }
  for (const [style] of text.matchAll(/<style[\s\S]*?<\/style>/g)) styleLines += style.split('\n').length;
}
process.stdout.write(`${raw} raw controls outside the parts; ${styleLines} lines of style in pages, at most ${MOST_STYLE_LINES}.\n`);
process.exitCode = raw === 0 && styleLines <= MOST_STYLE_LINES ? 0 : 1;
