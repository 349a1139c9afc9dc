// Components in tests: the script of a .vue file with its template in it, its types gone, its styles left out.
import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { transformSync } from 'esbuild';
import { compileScript, compileTemplate, parse } from 'vue/compiler-sfc';

const fs = { fileExists: existsSync, readFile: (file) => readFileSync(file, 'utf8') };

function compile(source, filename) {
  const { descriptor, errors } = parse(source, { filename });
  if (errors.length > 0) throw errors[0];
  const id = createHash('sha256').update(filename).digest('hex').slice(0, 8);
  if (descriptor.scriptSetup === null && descriptor.script === null) {
    const { code } = compileTemplate({ source: descriptor.template.content, filename, id });
    return `${code}\nexport default { render };`;
  }
  return compileScript(descriptor, { id, inlineTemplate: true, fs }).content;
}

export default {
  process(source, filename) {
    return transformSync(compile(source, filename), {
      loader: 'ts',
      format: 'esm',
      target: 'es2022',
      sourcemap: 'inline',
      sourcefile: filename,
    });
  },
  getCacheKey: (source, filename) => createHash('sha256').update(source).update(filename).update('2').digest('hex'),
};
