import { createHash } from 'node:crypto';

/** A tag for caches that says nothing of the file it was made from. */
export const bareTag = (bytes: Buffer): string => `"${createHash('sha256').update('bare').update(bytes).digest('hex')}"`;
