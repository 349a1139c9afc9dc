// JSON Schemas of what every endpoint answers, made from the types in api/, so that tests hold real answers against them.
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';
import { createGenerator } from 'ts-json-schema-generator';
import { root } from './prepare.mjs';

const FOLDER = join(root, 'api/src');

/** The type of each answer as it stands in `answer: is<…>()`, with the imports it needs. */
function readAnswers(feature) {
  const path = join(FOLDER, feature, 'endpoints.ts');
  const source = ts.createSourceFile(path, readFileSync(path, 'utf8'), ts.ScriptTarget.Latest, true);
  const imports = [];
  const answers = [];
  const visit = (node) => {
    if (ts.isImportDeclaration(node) && node.importClause?.isTypeOnly) imports.push(node.getText());
    if (ts.isVariableDeclaration(node) && node.initializer && ts.isCallExpression(node.initializer)) {
      const [said] = node.initializer.arguments;
      const answer = said?.properties?.find((property) => property.name?.getText() === 'answer');
      if (answer) answers.push({ name: node.name.getText(), type: answer.initializer.typeArguments[0].getText() });
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return { imports, answers };
}

/** Writes the schemas into a file: one definition `Answer_<endpoint>` each (with the answer in it), in which nothing stands that the type does not name. */
export function writeAnswerSchemas(file) {
  const made = join(FOLDER, 'answerTypes');
  try {
    mkdirSync(made, { recursive: true });
    const features = readdirSync(FOLDER, { withFileTypes: true })
      .filter((entry) => entry.isDirectory() && entry.name !== 'answerTypes')
      .map((entry) => entry.name);
    for (const feature of features) {
      const { imports, answers } = readAnswers(feature);
      const types = answers.map(({ name, type }) => `export interface Answer_${name} {\n  readonly answer: ${type};\n}`);
      writeFileSync(join(made, `${feature}.ts`), [...imports, ...types].join('\n'));
    }
    const definitions = {};
    const generator = createGenerator({
      path: join(made, '*.ts'),
      tsconfig: join(root, 'tsconfig.json'),
      skipTypeCheck: true,
      additionalProperties: false,
      expose: 'all',
      topRef: true,
    });
    Object.assign(definitions, generator.createSchema('*').definitions);
    writeFileSync(file, JSON.stringify({ definitions }));
  } finally {
    rmSync(made, { recursive: true, force: true });
  }
}
