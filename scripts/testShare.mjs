// Tests are to be a quarter to a third of the lines.
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';

const files = execFileSync('git', ['ls-files', '*.ts', '*.vue', '*.sql', '*.mjs'], { encoding: 'utf8' })
  .split('\n')
  .filter((f) => f !== '' && !f.startsWith('docs/'));
const isTest = (file) => file.endsWith('.test.ts') || file.startsWith('e2e/') || file.includes('/test/');
const lines = (file) => {
  try {
    return readFileSync(file, 'utf8')
      .split('\n')
      .filter((l) => l.trim() !== '').length;
  } catch {
    return 0;
  }
};
const count = (list) => list.reduce((sum, file) => sum + lines(file), 0);
const tests = count(files.filter(isTest));
const code = count(files.filter((f) => !isTest(f)));
const share = Math.round((100 * tests) / (code + tests));
process.stdout.write(`Tests are ${share} % of ${code + tests} lines of code and tests.\n`);
process.exit(share >= 25 && share <= 34 ? 0 : 1);
