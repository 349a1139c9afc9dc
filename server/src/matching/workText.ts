import { plainText, type DocumentNode } from '@rosemary/core';
import { readWhole } from '../files/index.ts';
import { textOfFile, WORD } from '../openFile/index.ts';
import { rows, type Db } from '../platform/database.ts';

const MOST_BYTES = 20_971_520;

interface FileRow {
  sha256: Buffer;
  size: string;
  media_type: string;
}

/** Everything in words that an attempt holds: what was written here, then its files in order. */
export async function attemptText(db: Db, attemptId: string, document: DocumentNode | null): Promise<string> {
  const files = await rows<FileRow>(
    db,
    `select b.sha256, b.size, b.media_type from attempt_file af join file f on f.id = af.file_id join file_blob b on b.sha256 = f.sha256
     where af.attempt_id = $1 and b.size <= $2 and (b.media_type in ('application/pdf', $3) or b.media_type like 'text/%') order by af.position`,
    [attemptId, MOST_BYTES, WORD],
  );
  const texts = [plainText(document)];
  for (const file of files) texts.push(await textOfFile(await readWhole(db, file), file.media_type));
  return texts.filter((text) => text.trim() !== '').join('\n\n');
}
