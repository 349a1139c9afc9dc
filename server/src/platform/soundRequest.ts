import type { IncomingMessage, ServerResponse } from 'node:http';
import type { RequestHandler } from 'express';
import { invalid, UnsoundBody } from './errors.ts';

/** Deeper than any text that somebody writes; what is nested further is there to exhaust whoever reads it. */
const MOST_DEPTH = 200;

const [QUOTE, BACKSLASH, OPEN_LIST, CLOSE_LIST, OPEN, CLOSE] = [...'"\\[]{}'].map((sign) => sign.charCodeAt(0));

/** Whether JSON is nested no deeper than it may be, seen before it is read. */
function isShallow(bytes: Buffer): boolean {
  let [depth, isText] = [0, false];
  for (let at = 0; at < bytes.length; at += 1) {
    const sign = bytes[at];
    if (isText) {
      if (sign === BACKSLASH) at += 1;
      else if (sign === QUOTE) isText = false;
    } else if (sign === QUOTE) isText = true;
    else if (sign === OPEN || sign === OPEN_LIST) {
      depth += 1;
      if (depth > MOST_DEPTH) return false;
    } else if (sign === CLOSE || sign === CLOSE_LIST) depth -= 1;
  }
  return true;
}

/** An escaped zero: no text that is kept can hold one. A backslash before it makes it words about it. */
const ZERO = /(?<!\\)(?:\\\\)*\\u0000/;

/** Refuses a body that no handler should have to look at, by its bytes and before it is read. */
export function soundBody(_request: IncomingMessage, _response: ServerResponse, bytes: Buffer): void {
  if (!isShallow(bytes)) throw new UnsoundBody(`This is nested more than ${MOST_DEPTH} deep, which is more than is taken.`);
  if (bytes.includes('\\u0000') && ZERO.test(bytes.toString('utf8')))
    throw new UnsoundBody('There is a character in this text that cannot be kept (number 0). Remove it.');
}

/** What stands behind the question mark is said once: a handler that asks for a text is never given a list. */
export const requireSoundQuery: RequestHandler = (request, _response, next) => {
  for (const [name, value] of Object.entries(request.query))
    if (typeof value !== 'string') throw invalid(name, `“${name}” is given more than once. Give it once.`);
  next();
};
