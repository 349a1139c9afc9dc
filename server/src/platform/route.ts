import type { Permission, Membership } from '@rosemary/core';
import { validationOptions } from '@rosemary/api';
import type { Request, Response } from 'express';
import type Joi from 'joi';
import { AppError } from './errors.ts';
import type { Db, Read } from './database.ts';
import type { EventHub } from './events.ts';
import type { JobName } from './jobs.ts';
import type { SignedIn } from '../people/actor.ts';

/** What a route needs: everyone, someone signed in, or a permission in the course its address names. */
export type Needs = 'public' | 'person' | Permission;

export interface Context<B> {
  readonly db: Db;
  readonly now: number;
  readonly body: B;
  readonly params: { readonly [name: string]: string };
  readonly query: { readonly [name: string]: string };
  readonly request: Request;
  readonly response: Response;
  readonly events: EventHub;
  /** Has a job done soon, once this request's transaction is kept. */
  readonly kick: (job: JobName) => void;
}

/** In a course, whoever asks is a member; the route table makes sure of it. */
export interface MemberContext<B> extends Context<B> {
  readonly person: SignedIn;
  readonly courseId: string;
  readonly member: Membership;
  readonly isSeenAs: boolean;
}
export interface PersonContext<B> extends Context<B> {
  readonly person: SignedIn;
}

/** What a route that streams answers with, where the bytes are sent after its own connection is given back. */
export type Sending = (read: Read) => Promise<void>;

type Method = 'get' | 'post' | 'put' | 'patch' | 'delete';

export interface Route {
  readonly method: Method;
  readonly path: string;
  readonly needs: Needs;
  readonly body: Joi.ObjectSchema | null;
  /** Streams answer by themselves; everything else is JSON. */
  readonly answers: 'json' | 'stream';
  /** Uploads read the body themselves. */
  readonly takesFile: boolean;
  /** A write in a course is told to everyone who looks at it, unless it changes nothing they could see. */
  readonly isSilent: boolean;
  /** Moves many bytes: few of these go on at once, so that small saves beside them stay quick. */
  readonly isHeavy: boolean;
  /** Writes with a single statement, which needs no transaction round it: what is done thousands of times a minute pays for none. */
  readonly isOneStatement: boolean;
  /** A write that can move a grade can be rehearsed: carried out, its ripple answered, and taken back whole. */
  readonly movesGrades: boolean;
  /** Gives a mark, hands in or the like: totals move because of what is given, and nobody is asked first. */
  readonly gives: boolean;
  readonly handle: (context: never) => Promise<unknown>;
}

interface Spec<B, C> {
  readonly method: Method;
  readonly path: string;
  readonly body?: Joi.ObjectSchema<B>;
  readonly answers?: 'stream';
  readonly takesFile?: boolean;
  readonly isSilent?: boolean;
  readonly isHeavy?: boolean;
  readonly isOneStatement?: boolean;
  readonly movesGrades?: boolean;
  readonly gives?: boolean;
  readonly handle: (context: C) => Promise<unknown>;
}

function build<B, C>(needs: Needs, spec: Spec<B, C>): Route {
  return {
    method: spec.method,
    path: spec.path,
    needs,
    body: (spec.body as Joi.ObjectSchema | undefined) ?? null,
    answers: spec.answers ?? 'json',
    takesFile: spec.takesFile ?? false,
    isSilent: spec.isSilent ?? false,
    isHeavy: spec.isHeavy ?? false,
    isOneStatement: spec.isOneStatement ?? false,
    movesGrades: spec.movesGrades ?? false,
    gives: spec.gives ?? false,
    handle: spec.handle as (context: never) => Promise<unknown>,
  };
}

export const publicRoute = <B>(spec: Spec<B, Context<B>>): Route => build('public', spec);
export const personRoute = <B>(spec: Spec<B, PersonContext<B>>): Route => build('person', spec);
export const schoolRoute = <B>(spec: Spec<B, PersonContext<B>>): Route => build('school.administer', spec);
export const courseRoute = <B>(needs: Exclude<Permission, 'school.administer'>, spec: Spec<B, MemberContext<B>>): Route =>
  build(needs, spec);

/** Checks a body against its schema; every fault names its field, its value and the mend. */
export function parseBody(schema: Joi.ObjectSchema | null, body: unknown): unknown {
  if (schema === null) return undefined;
  const { error, value } = schema.validate(body ?? {}, validationOptions);
  if (error === undefined) return value as unknown;
  const pointers = error.details.map((d) => ({ field: d.path.join('.'), text: d.message }));
  throw new AppError('invalid', pointers.map((p) => p.text).join(' '), pointers);
}
