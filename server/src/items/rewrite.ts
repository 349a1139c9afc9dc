import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import type { DocumentNode } from '@rosemary/core';

/** A text in its new course: pictures and links to items that came along lead to their new places. */
export function rewrite<T extends object = DocumentNode>(
  document: T,
  fromId: string,
  courseId: string,
  files: ReadonlyMap<string, string>,
  items: ReadonlyMap<string, string>,
): T {
  const text = JSON.stringify(document)
    // A picture of a question may be fetched through another course than the one it comes from.
    .replace(/\/api\/courses\/[0-9a-f-]{36}\/files\/([0-9a-f-]{36})/g, (whole, id: string) =>
      files.has(id) ? urlOf(api.getFile, { courseId, fileId: files.get(id) ?? id }) : whole,
    )
    .replace(/"(fileId|captionsId)":"([0-9a-f-]{36})"/g, (whole, name: string, id: string) =>
      files.has(id) ? `"${name}":"${files.get(id)}"` : whole,
    )
    .replace(new RegExp(`/courses/${fromId}/(items|study)/([0-9a-f-]{36})`, 'g'), (whole, view: string, id: string) =>
      items.has(id) ? `/courses/${courseId}/${view}/${items.get(id)}` : whole,
    );
  return JSON.parse(text) as T;
}
