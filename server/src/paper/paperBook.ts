import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import PdfKit from 'pdfkit';

// Fonts that ship with the application and hold the letters of many languages.
const fonts = join(dirname(createRequire(import.meta.url).resolve('dejavu-fonts-ttf/package.json')), 'ttf');
const FACES = {
  text: 'DejaVuSerif.ttf',
  bold: 'DejaVuSerif-Bold.ttf',
  italic: 'DejaVuSerif-Italic.ttf',
  code: 'DejaVuSansMono.ttf',
  sans: 'DejaVuSans.ttf',
} as const;
export const INK = '#22302A';
export const SOFT = '#55645B';
export type Paper = InstanceType<typeof PdfKit>;

/** A4 pages set by `write`, as the bytes of a PDF with our faces in it. */
export function makePaper(title: string, margin: number, write: (paper: Paper) => void): Promise<Buffer> {
  const margins = { top: margin, bottom: margin, left: margin, right: margin };
  const paper = new PdfKit({ size: 'A4', margins, info: { Title: title }, autoFirstPage: false, bufferPages: true });
  for (const [name, file] of Object.entries(FACES)) paper.registerFont(name, join(fonts, file));
  const parts: Buffer[] = [];
  const whole = new Promise<Buffer>((done, fail) => {
    paper.on('data', (part: Buffer) => parts.push(part));
    paper.on('end', () => {
      done(Buffer.concat(parts));
    });
    paper.on('error', fail);
  });
  write(paper);
  paper.end();
  return whole;
}
