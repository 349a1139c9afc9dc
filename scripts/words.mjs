// Holds turns of phrase out of what people read that a teacher would have to guess at; what to write instead stands beside each.
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';

/** What is not to be read anywhere, and what to write. */
const WORDS = [
  [/\bin the middle\b/i, 'median'],
  [/\bbring(ing)? (it |them |a \w+ |the \w+ |this )?in\b/i, 'import, or add'],
  [/\bbrought in(to)?\b/i, 'imported'],
  [/\btak(e|en|ing) (it |them |the course )?out\b/i, 'export'],
  [/\bas a table\b/i, 'as CSV'],
  [/\bshare right\b/i, 'share correct'],
  [/\bgoes with the rest\b/i, 'item–rest correlation'],
  [/\bleast it gives\b/i, 'lowest score'],
  [/\bsaid when\b/i, 'feedback when'],
  [/\bof several attempts\b/i, 'the attempt that counts'],
  [/\bwhat comes in\b/i, 'submissions'],
  [/\bwhat came back\b/i, 'returned'],
  [/\bkeep on top\b/i, 'pin'],
  [/\b(keep|kept) (this page )?as a template\b/i, 'save copy as template'],
  [/\bsaid to all\b/i, 'feedback in any case'],
  [/\bpart (it|them)\b/i, 'split'],
  [/\bjoin(ed)? to\b/i, 'merge with'],
  [/\bfind or do anything\b/i, 'search or run a command'],
  [/\b1 (points|items|pieces|students|questions|works|marks|days|weeks|files|people)\b/, 'one, with its noun in the singular'],
];
const FOLDERS = ['web/src', 'web/index.html', 'core/src', 'api/src', 'server/src', 'demo/src'];

/** What of a line is read: text between tags, and what stands in quotes; no comments. */
const isComment = (line) => /^\s*(\/\/|\*|\/\*|<!--)/.test(line);
const files = execFileSync('git', ['ls-files', ...FOLDERS], { encoding: 'utf8' })
  .split('\n')
  .filter((file) => /\.(vue|ts)$/.test(file) && !file.endsWith('.test.ts'));
let found = 0;
for (const file of files)
  for (const [at, line] of readFileSync(file, 'utf8').split('\n').entries()) {
    if (isComment(line)) continue;
    for (const [word, better] of WORDS) {
      const said = word.exec(line.replace(/\s\/\/ .*$/, ''));
      if (said === null) continue;
      found += 1;
      process.stdout.write(`${file}:${at + 1}: “${said[0]}”: write ${better}\n`);
    }
  }
process.stdout.write(`${found} turns of phrase to write otherwise.\n`);
process.exitCode = found === 0 ? 0 : 1;
