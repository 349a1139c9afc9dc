import { validationOptions } from '@rosemary/api';
import type { AskedKind, Endpoint } from '@rosemary/api/endpoints';
import Joi, { type ObjectSchema, type StringSchema, type ValidationError } from 'joi';
import { AppError } from './errors.ts';

const MOST_TEXT = 4000;
const MOST_WORDS = 2000;

const OF_KIND = {
  id: () => Joi.string().guid({ wrapper: false, separator: '-' }),
  whole: () => Joi.string().pattern(/^\d{1,9}$/, 'a whole number'),
  words: () => Joi.string().max(MOST_WORDS),
  text: () => Joi.string().max(MOST_TEXT),
  flag: () => Joi.string().max(10),
} satisfies { readonly [kind in Extract<AskedKind, string>]: () => StringSchema };

const schemaOf = (kind: AskedKind): StringSchema => (typeof kind === 'string' ? OF_KIND[kind]() : Joi.string().valid(...kind));

const made = new WeakMap<Endpoint, ObjectSchema>();

function querySchema(at: Endpoint): ObjectSchema {
  const known = made.get(at);
  if (known !== undefined) return known;
  const { shape = {}, needed = [] } = at.query ?? {};
  const keys = Object.entries(shape).map(([name, kind]) => {
    // A name with nothing behind it is as good as none, but for what is there or not.
    const one = kind === 'flag' ? schemaOf(kind).allow('') : schemaOf(kind).empty('');
    return [name, needed.includes(name) ? one.required() : one] as const;
  });
  const schema = Joi.object(Object.fromEntries(keys)).prefs({ ...validationOptions, stripUnknown: true });
  made.set(at, schema);
  return schema;
}

/** What stands behind the question mark, held against what the endpoint says may stand there; what it does not name is not looked at. */
export function askedQuery(at: Endpoint, query: unknown): Readonly<Record<string, string>> {
  const { error, value } = querySchema(at).validate(query) as { error?: ValidationError; value: Record<string, string> };
  if (error === undefined) return value;
  const pointers = error.details.map((d) => ({ field: d.path.join('.'), text: d.message }));
  throw new AppError('invalid', pointers.map((p) => p.text).join(' '), pointers);
}
