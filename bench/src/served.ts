import { spawn } from 'node:child_process';

/** The built server on a port of its own, and a browser's way of asking it: with the cookie it gives. */
const url = `http://127.0.0.1:${process.env.PORT ?? 3950}`;
export const server = spawn(process.execPath, ['dist/server/main.mjs'], {
  env: { ...process.env, NODE_ENV: 'production' },
  stdio: 'ignore',
});
// A benchmark that fails leaves nothing running.
process.on('exit', () => server.kill());
let cookie = '';

export async function ask(method: string, path: string, body?: unknown): Promise<Response> {
  const isForm = body instanceof FormData;
  const headers = { cookie, origin: url, ...(body === undefined || isForm ? {} : { 'content-type': 'application/json' }) };
  const response = await fetch(`${url}/api${path}`, {
    method,
    headers,
    body: isForm ? body : body === undefined ? null : JSON.stringify(body),
  });
  cookie = response.headers.getSetCookie()[0]?.split(';')[0] ?? cookie;
  if (!response.ok) throw new Error(`${method} ${path}: ${response.status} ${await response.text()}`);
  return response;
}
export const call = async <T>(method: string, path: string, body?: unknown): Promise<T> =>
  (await (await ask(method, path, body)).json()) as T;

/** Waits until it answers, and signs in as the demo's instructor. Gives their courses. */
export async function enter(): Promise<readonly { readonly id: string; readonly code: string }[]> {
  for (let tries = 0; ; tries += 1) {
    const isUp = await fetch(`${url}/api/health`).then(
      (r) => r.ok,
      () => false,
    );
    if (isUp) break;
    if (tries > 20_000) throw new Error('the server did not come up');
    await new Promise((done) => setImmediate(done));
  }
  const me = await call<{ demoPeople: { id: string; givenName: string }[] }>('GET', '/me');
  await call('POST', '/demo/sign-in', { personId: me.demoPeople.find((p) => p.givenName === 'Ines')?.id });
  return (await call<{ courses: { id: string; code: string }[] }>('GET', '/me')).courses;
}
