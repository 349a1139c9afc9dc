import { validationOptions } from '@rosemary/api';
import type { AnswerOf, BodyOf, Endpoint, Nothing, PathOf, QueryOf } from '@rosemary/api/endpoints';
import type { Membership } from '@rosemary/core';
import type { Request, Response } from 'express';
import type Joi from 'joi';
import type { Arrived } from './arrival.ts';
import type { AuditEntry } from './audit.ts';
import type { Db, Read } from './database.ts';
import { AppError } from './errors.ts';
import type { EventHub } from './events.ts';
import type { JobName } from './jobs.ts';
import type { SignedIn } from './signedIn.ts';

type Names = { readonly [name: string]: string };

type AskedNames = { readonly [name: string]: string | undefined };

/** What the audit says of an act beyond who, when and its name; left out, the subject and the body are taken from the request. */
export type Account = Partial<Pick<AuditEntry, 'courseId' | 'subject' | 'before' | 'after'>>;

export interface Context<B, P = Names, Q = AskedNames> {
  readonly db: Db;
  readonly now: number;
  readonly body: B;
  readonly params: P;
  readonly query: Q;
  readonly request: Request;
  readonly response: Response;
  readonly events: EventHub;
  /** Has a job done soon, once this request's transaction is kept. */
  readonly kick: (job: JobName) => void;
  /** Says more of this act to the audit; called several times, each is an entry of its own. */
  readonly account: (more: Account) => void;
}

/** In a course, whoever asks is a member; the endpoint makes sure of it. */
export interface MemberContext<B, P = Names, Q = AskedNames> extends Context<B, P, Q> {
  readonly person: SignedIn;
  readonly courseId: string;
  readonly member: Membership;
  readonly isSeenAs: boolean;
}

export interface PersonContext<B, P = Names, Q = AskedNames> extends Context<B, P, Q> {
  readonly person: SignedIn;
}

/** Where an endpoint takes a file, it has come whole before anything else is done. */
type FileOf<E extends Endpoint> = E extends { readonly takesFile: string } ? { readonly file: Arrived } : unknown;

type ContextOf<E extends Endpoint> = FileOf<E> & WhoOf<E>;

type WhoOf<E extends Endpoint> = E['needs'] extends 'public'
  ? Context<BodyOf<E>, PathOf<E>, Asked<E>>
  : E['needs'] extends 'person' | 'school.administer'
    ? PersonContext<BodyOf<E>, PathOf<E>, Asked<E>>
    : MemberContext<BodyOf<E>, PathOf<E>, Asked<E>>;

/** Anybody can leave out or add what stands behind the question mark, whatever the endpoint says of it. */
type Asked<E> = unknown extends QueryOf<E> ? AskedNames : { readonly [name in keyof QueryOf<E>]?: string };

/** What a route that streams answers with, where the bytes are sent after its own connection is given back. */
export type Sending = (read: Read) => Promise<void>;

/** A refusal that is answered after its transaction is kept: what was counted on the way stays counted. */
export class Refusal {
  readonly error: AppError;

  constructor(error: AppError) {
    this.error = error;
  }
}

type Given<E extends Endpoint> = E extends { readonly isStream: true }
  ? Sending | undefined
  : AnswerOf<E> extends Nothing
    ? undefined | Refusal
    : AnswerOf<E> | Refusal;

/** A handler that answers nothing may be written without a return. */
type Done<E extends Endpoint> = Given<E> | (undefined extends Given<E> ? void : never);

type Handle<E extends Endpoint> = (context: ContextOf<E>) => Promise<Done<E>>;

/** An endpoint with the schema of its body and what the server does for it. */
export interface Route {
  readonly endpoint: Endpoint;
  readonly schema: Joi.ObjectSchema | null;
  readonly handle: (context: never) => Promise<unknown>;
}

type WithBody = Endpoint & { readonly body: object };

/** What the server does at an endpoint. One that takes a body names the schema it is held against. */
export function implement<const E extends WithBody>(endpoint: E, schema: Joi.ObjectSchema<BodyOf<E>>, handle: Handle<E>): Route;

export function implement<const E extends Endpoint>(endpoint: E extends WithBody ? never : E, handle: Handle<E>): Route;

export function implement(endpoint: Endpoint, ...rest: readonly [Joi.ObjectSchema, Route['handle']] | readonly [Route['handle']]): Route {
  return rest.length === 2 ? { endpoint, schema: rest[0], handle: rest[1] } : { endpoint, schema: null, handle: rest[0] };
}

const readied = new WeakMap<Joi.ObjectSchema, Joi.ObjectSchema>();

/** A schema with our words for its faults in it: given with every body, they would be read anew each time. */
function readyOf(schema: Joi.ObjectSchema): Joi.ObjectSchema {
  const ready = readied.get(schema) ?? schema.prefs(validationOptions);
  readied.set(schema, ready);
  return ready;
}

/** Checks a body against its schema; every fault names its field, its value and the mend. */
export function parseBody(schema: Joi.ObjectSchema | null, body: unknown): unknown {
  if (schema === null) return undefined;
  const { error, value } = readyOf(schema).validate(body ?? {});
  if (error === undefined) return value as unknown;
  const pointers = error.details.map((d) => ({ field: d.path.join('.'), text: d.message }));
  throw new AppError('invalid', pointers.map((p) => p.text).join(' '), pointers);
}
