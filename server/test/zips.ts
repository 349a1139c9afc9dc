import { ZipFile } from 'yazl';
import type { Test } from 'supertest';

/** A zip of these entries, as a package that somebody sends. */
export async function packZip(entries: Readonly<Record<string, string | Buffer>>): Promise<Buffer> {
  const zip = new ZipFile();
  for (const [name, body] of Object.entries(entries)) zip.addBuffer(Buffer.from(body), name);
  zip.end();
  const parts: Buffer[] = [];
  for await (const part of zip.outputStream) parts.push(part as Buffer);
  return Buffer.concat(parts);
}

/** The bytes that a route streams. */
export async function bytesOf(request: Test): Promise<Buffer> {
  const answer = await request.buffer(true).parse((response, done) => {
    const parts: Buffer[] = [];
    response.on('data', (part: Buffer) => parts.push(part));
    response.on('end', () => {
      done(null, Buffer.concat(parts));
    });
  });
  return answer.body as Buffer;
}
