import ipaddr from 'ipaddr.js';
import { lookup as resolve, type LookupAddress } from 'node:dns';
import { createWriteStream } from 'node:fs';
import { request as plainRequest, type IncomingMessage } from 'node:http';
import { request as securedRequest } from 'node:https';
import { isIP, type LookupFunction } from 'node:net';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';

const MOST_HOPS = 5;
const WAIT_MS = 15_000;
const REDIRECTS: readonly number[] = [301, 302, 303, 307, 308];

export type Fetched =
  | { readonly ok: true; readonly address: string; readonly contentType: string }
  | { readonly ok: false; readonly state: 'refused' | 'away' | 'inside' | 'large'; readonly said: string; readonly address: string };

class Inside extends Error {}
class TooLarge extends Error {}

/** Whether an address of the network is one that everybody can reach: none of this machine, of its house, or of its neighbours. */
export function isOutside(address: string): boolean {
  if (!ipaddr.isValid(address)) return false;
  // 4-in-6 addresses are judged by the address within.
  return ipaddr.process(address).range() === 'unicast';
}

/** Looks a name up and lets it through only where every address it has is outside: what is checked is what is then connected to. */
const guarded: LookupFunction = (hostname, options, callback) => {
  resolve(hostname, { ...options, all: true }, (error, found) => {
    const addresses = found as LookupAddress[] | undefined;
    if (error !== null) callback(error, '', 0);
    else if (addresses === undefined || addresses.length === 0 || !addresses.every((a) => isOutside(a.address)))
      callback(new Inside(hostname), '', 0);
    else if (options.all === true) callback(null, addresses);
    else callback(null, addresses[0]?.address ?? '', addresses[0]?.family ?? 4);
  });
};

function ask(url: URL, isTrusted: boolean, signal: AbortSignal): Promise<IncomingMessage> {
  const host = url.hostname.replace(/^\[|\]$/g, '');
  if (!isTrusted && isIP(host) !== 0 && !isOutside(host)) return Promise.reject(new Inside(host));
  return new Promise((done, fail) => {
    const asked = (url.protocol === 'https:' ? securedRequest : plainRequest)(
      url,
      {
        signal,
        headers: { accept: 'text/html,application/pdf,image/*;q=0.9,*/*;q=0.5', 'user-agent': 'Rosemary (keeps a copy of handed-in work)' },
        ...(isTrusted ? {} : { lookup: guarded }),
      },
      done,
    );
    asked.on('error', fail);
    asked.end();
  });
}

/** Answers in words for whoever looks at the work: what the address said to somebody who is not signed in there. */
function refusal(status: number): string {
  if (status === 401 || status === 403) return `It lets in only those who are signed in there (it answered ${status}).`;
  if (status === 404 || status === 410) return `There is nothing at this address (it answered ${status}).`;
  return `It answered ${status} and gave nothing to read.`;
}

async function save(answer: IncomingMessage, path: string, mostBytes: number): Promise<void> {
  let size = 0;
  const limited = new Transform({
    transform(part: Buffer, _encoding, done) {
      size += part.length;
      done(size > mostBytes ? new TooLarge() : null, part);
    },
  });
  await pipeline(answer, limited, createWriteStream(path));
}

/**
 * Fetches what stands at an address of the web into a file, as somebody who is not signed in anywhere. Addresses of this machine and of
 * private networks are refused, also behind a name or a redirect, save for hosts the school names as its own (`trusted`, as `name:port`).
 * It ends after 15 seconds, five redirects, or `mostBytes`.
 */
export async function fetchOutside(
  address: string,
  path: string,
  { mostBytes, trusted }: { readonly mostBytes: number; readonly trusted: readonly string[] },
): Promise<Fetched> {
  const signal = AbortSignal.timeout(WAIT_MS);
  let at = address;
  try {
    for (let hop = 0; hop <= MOST_HOPS; hop += 1) {
      const url = new URL(at);
      if (url.protocol !== 'https:' && url.protocol !== 'http:')
        return { ok: false, state: 'refused', said: 'It leads on to something that is no page of the web.', address: at };
      const answer = await ask(url, trusted.includes(url.host), signal);
      const status = answer.statusCode ?? 0;
      if (REDIRECTS.includes(status) && answer.headers.location !== undefined) {
        answer.destroy();
        at = new URL(answer.headers.location, url).href;
        continue;
      }
      if (status !== 200) {
        answer.destroy();
        return { ok: false, state: 'refused', said: refusal(status), address: at };
      }
      await save(answer, path, mostBytes);
      return { ok: true, address: at, contentType: answer.headers['content-type'] ?? '' };
    }
    return { ok: false, state: 'refused', said: 'It leads from one address to the next without end.', address: at };
  } catch (error) {
    if (error instanceof Inside)
      return { ok: false, state: 'inside', said: 'It leads into a private network, where nothing is fetched.', address: at };
    if (error instanceof TooLarge)
      return { ok: false, state: 'large', said: `It is larger than ${Math.round(mostBytes / 1_048_576)} MB.`, address: at };
    if (error instanceof TypeError)
      return { ok: false, state: 'refused', said: 'It leads to an address that cannot be read.', address: at };
    return { ok: false, state: 'away', said: 'Nobody answered at this address.', address: at };
  }
}
