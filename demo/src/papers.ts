import { PDFDocument, StandardFonts, rgb } from 'pdf-lib';

export interface Paper {
  readonly bytes: Uint8Array;
  readonly boxes: readonly { readonly x: number; readonly y: number; readonly w: number; readonly h: number }[];
  readonly quote: string;
}

const WIDTH = 420;
const HEIGHT = 560;
const SIZE = 12;

/** A one-page PDF drawing sheet with a few labelled lines; gives the box of its first remark, for a note in its margin. */
export async function drawPaper(title: string, name: string, lines: readonly string[]): Promise<Paper> {
  const pdf = await PDFDocument.create();
  // Fixed dates keep the file, and so its hash, the same for the same words.
  pdf.setCreationDate(new Date(0));
  pdf.setModificationDate(new Date(0));
  const font = await pdf.embedFont(StandardFonts.TimesRoman);
  const page = pdf.addPage([WIDTH, HEIGHT]);
  const plain = (text: string): string => [...text.normalize('NFC')].map((c) => (c.charCodeAt(0) < 256 ? c : '?')).join('');
  page.drawText(plain(title), { x: 40, y: HEIGHT - 60, size: 18, font });
  page.drawText(plain(name), { x: 40, y: HEIGHT - 80, size: 10, font, color: rgb(0.35, 0.4, 0.37) });
  page.drawEllipse({ x: WIDTH / 2, y: HEIGHT - 210, xScale: 90, yScale: 90, borderWidth: 1.2, borderColor: rgb(0.13, 0.19, 0.16) });
  for (let tooth = 0; tooth < 15; tooth += 1) {
    const a = (tooth / 15) * 2 * Math.PI;
    page.drawLine({
      start: { x: WIDTH / 2 + 90 * Math.cos(a), y: HEIGHT - 210 + 90 * Math.sin(a) },
      end: { x: WIDTH / 2 + 106 * Math.cos(a + 0.09), y: HEIGHT - 210 + 106 * Math.sin(a + 0.09) },
      thickness: 1.2,
    });
  }
  page.drawEllipse({ x: WIDTH / 2, y: HEIGHT - 210, xScale: 12, yScale: 12, borderWidth: 1.2, borderColor: rgb(0.13, 0.19, 0.16) });
  const kept = lines.map((line) => plain(line).slice(0, 64));
  kept.forEach((line, n) => {
    page.drawText(line, { x: 40, y: HEIGHT - 360 - n * 22, size: SIZE, font });
  });
  const quote = kept[0] ?? '';
  const box = { x: 40 / WIDTH, y: (360 - SIZE) / HEIGHT, w: font.widthOfTextAtSize(quote, SIZE) / WIDTH, h: (SIZE + 4) / HEIGHT };
  return { bytes: await pdf.save({ useObjectStreams: false }), boxes: [box], quote };
}
