import type Joi from 'joi';

interface Described {
  readonly type?: string;
  readonly flags?: { readonly presence?: string; readonly only?: boolean };
  readonly allow?: readonly unknown[];
  readonly rules?: readonly { readonly name: string; readonly args?: { readonly limit?: number } }[];
  readonly keys?: Readonly<Record<string, Described>>;
  readonly items?: readonly Described[];
  readonly matches?: readonly { readonly schema?: Described }[];
}

const limitOf = (at: Described, rule: string): number | undefined => at.rules?.find((r) => r.name === rule)?.args?.limit;
const has = (at: Described, rule: string): boolean => at.rules?.some((r) => r.name === rule) === true;

function textOf(at: Described, name: string, idOf: (name: string) => string): string {
  if (has(at, 'guid')) return idOf(name);
  if (has(at, 'isoDate')) return '2026-11-20T10:00:00Z';
  if (has(at, 'email')) return 'nobody@apart.example';
  return 'x'.repeat(Math.max(1, limitOf(at, 'min') ?? limitOf(at, 'length') ?? 1));
}

function make(at: Described, name: string, idOf: (name: string) => string, isWhole: boolean): unknown {
  if (at.flags?.only === true && at.type !== 'object')
    return at.allow?.find((value) => value !== null && typeof value !== 'object') ?? null;
  switch (at.type) {
    case 'string':
      return textOf(at, name, idOf);
    case 'number':
      return Math.max(1, limitOf(at, 'min') ?? 1);
    case 'boolean':
      return true;
    case 'date':
      return '2026-11-20T10:00:00Z';
    case 'array':
      return (at.items ?? []).slice(0, 1).map((item) => make(item, name, idOf, isWhole));
    case 'alternatives':
      return make(at.matches?.[0]?.schema ?? {}, name, idOf, isWhole);
    case 'object':
      return Object.fromEntries(
        Object.entries(at.keys ?? {})
          .filter(([key, inner]) => isWhole || inner.flags?.presence === 'required' || /Ids?$/.test(key))
          .map(([key, inner]) => [key, make(inner, key === 'id' || key === 'ids' ? name : key, idOf, isWhole)]),
      );
    default:
      return { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'x' }] }] };
  }
}

/** A body that its schema takes as far as can be told from it: every field filled, or those that are needed and those that name something. */
export const makeBody = (schema: Joi.ObjectSchema, idOf: (name: string) => string, isWhole: boolean): object =>
  make(schema.describe() as Described, '', idOf, isWhole) as object;
