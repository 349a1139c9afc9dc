import { PDFDocument, rgb, type PDFPage } from 'pdf-lib';
import type { Numbered } from './paperText.ts';
import { isPaged, setPages, type CopiedFile, type MarkedWork } from './setPages.ts';

const BLOOM = rgb(0.36, 0.373, 0.659);
const A4 = { width: 595.28, height: 841.89 };
interface Area {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Draws the places of a note with its number; they are shares of the area, counted from its upper left corner. */
function drawNote(page: PDFPage, note: Numbered, area: Area): void {
  if (note.anchor.kind === 'text') return;
  note.anchor.boxes.forEach((box, n) => {
    const [x, width] = [area.x + box.x * area.width, box.w * area.width];
    const [y, height] = [area.y + (1 - box.y - box.h) * area.height, box.h * area.height];
    if (note.quote === '') page.drawRectangle({ x, y, width, height, borderColor: BLOOM, borderWidth: 1.2 });
    else page.drawLine({ start: { x, y }, end: { x: x + width, y }, color: BLOOM, thickness: 1.2 });
    if (n === 0) page.drawText(String(note.number), { x: x + width + 1, y: y + height * 0.4, size: 8, color: BLOOM });
  });
}

async function addPdf(copy: PDFDocument, bytes: Buffer, notes: readonly Numbered[]): Promise<void> {
  const source = await PDFDocument.load(bytes, { updateMetadata: false });
  const pages = await copy.copyPages(source, source.getPageIndices());
  pages.forEach((page, n) => {
    copy.addPage(page);
    for (const note of notes) if (note.anchor.kind === 'pdf' && note.anchor.page === n + 1) drawNote(page, note, page.getCropBox());
  });
}

async function addPicture(copy: PDFDocument, bytes: Buffer, isPng: boolean, notes: readonly Numbered[]): Promise<void> {
  const picture = isPng ? await copy.embedPng(bytes) : await copy.embedJpg(bytes);
  const scale = Math.min((A4.width - 80) / picture.width, (A4.height - 80) / picture.height);
  const [width, height] = [picture.width * scale, picture.height * scale];
  const area = { x: 40, y: A4.height - 40 - height, width, height };
  const page = copy.addPage([A4.width, A4.height]);
  page.drawImage(picture, area);
  for (const note of notes) drawNote(page, note, area);
}

/** The pages of one file at the end of the copy; whether it could be read. */
async function addFile(copy: PDFDocument, file: CopiedFile, notes: readonly Numbered[]): Promise<boolean> {
  if (!isPaged(file) || file.bytes === null) return true;
  try {
    if (file.mediaType === 'application/pdf') await addPdf(copy, file.bytes, notes);
    else await addPicture(copy, file.bytes, file.mediaType === 'image/png', notes);
    return true;
  } catch {
    return false;
  }
}

/**
 * A marked copy as one PDF that opens anywhere: what was handed in, the notes with their places, criteria, score and feedback. The
 * pages of PDFs and the pictures that were handed in follow, with the notes drawn on them; a file that cannot be read is named.
 */
export async function markedCopy(work: MarkedWork): Promise<Buffer> {
  const handedIn = await PDFDocument.create();
  const files: CopiedFile[] = [];
  for (const file of work.files) {
    const isRead = await addFile(
      handedIn,
      file,
      work.notes.filter((n) => n.fileId === file.id),
    );
    files.push(isRead ? file : { ...file, bytes: null });
  }
  const copy = await PDFDocument.create();
  copy.setTitle(work.title);
  const ours = await PDFDocument.load(await setPages({ ...work, files }));
  for (const page of await copy.copyPages(ours, ours.getPageIndices())) copy.addPage(page);
  if (handedIn.getPageCount() > 0) for (const page of await copy.copyPages(handedIn, handedIn.getPageIndices())) copy.addPage(page);
  return Buffer.from(await copy.save());
}
