import * as api from '@rosemary/api/endpoints';
import type { Endpoint } from '@rosemary/api/endpoints';
import { Ajv, type ValidateFunction } from 'ajv';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';

const names = new Map<unknown, string>(Object.entries(api).map(([name, at]) => [at, name]));
let ajv: Ajv | null = null;
const checks = new Map<string, ValidateFunction | null>();

function checkOf(name: string): ValidateFunction | null {
  if (ajv === null) {
    ajv = new Ajv({ allErrors: false, strict: false });
    const file = join(process.env.ROSEMARY_TEST_FOLDER ?? '', 'answers.json');
    ajv.addSchema(JSON.parse(readFileSync(file, 'utf8')) as object, 'answers');
  }
  return ajv.getSchema(`answers#/definitions/Answer_${name}`) ?? null;
}

/** Holds what is answered against the type its endpoint names: nothing is missing, and nothing stands in it that the type does not know. */
export function requireAnswer(at: Endpoint, answer: unknown): void {
  const name = names.get(at);
  if (name === undefined || at.isStream === true) return;
  if (!checks.has(name)) checks.set(name, checkOf(name));
  const check = checks.get(name);
  const sent = JSON.parse(JSON.stringify({ answer: answer ?? {} })) as unknown;
  if (check === null || check === undefined) {
    if (JSON.stringify(sent) !== '{"answer":{}}') throw new Error(`${name} answers something, and its endpoint says nothing of it.`);
  } else if (!check(sent)) {
    const [fault] = check.errors ?? [];
    throw new Error(
      `${name} answers what its type does not say: ${fault?.instancePath} ${fault?.message} ${JSON.stringify(fault?.params)} (held against Answer_${name})`,
    );
  }
}
