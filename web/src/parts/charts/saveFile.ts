import * as api from '@rosemary/api/endpoints';
import type { ScreenTable } from '@rosemary/api';
import { callForFile } from '../../platform/call.ts';

/** Gives the browser a file to keep, under a name. */
export function saveFile(blob: Blob, name: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name.replace(/[\\/:*?"<>|]/g, ' ');
  document.body.append(link);
  link.click();
  link.remove();
  // The browser reads it after this; then its place is given back.
  setTimeout(() => {
    URL.revokeObjectURL(link.href);
  }, 10_000);
}

/** A table as it stands on the screen, as a file for a spreadsheet. */
export async function saveTable(table: ScreenTable, format: 'csv' | 'xlsx'): Promise<void> {
  const form = new FormData();
  form.append('file', new Blob([JSON.stringify(table)], { type: 'application/json' }), 'table.json');
  saveFile(await callForFile(api.writeTableFile, { format }, form), `${table.title}.${format}`);
}
