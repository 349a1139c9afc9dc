import normal from '@fontsource-variable/source-sans-3/files/source-sans-3-latin-wght-normal.woff2?url';
import wide from '@fontsource-variable/source-sans-3/files/source-sans-3-latin-ext-wght-normal.woff2?url';
import { extentOf, type Drawing } from '@rosemary/core';
import { FONT } from './looks.ts';

async function dataAddress(url: string): Promise<string> {
  const blob = await (await fetch(url)).blob();
  return new Promise((done, fail) => {
    const reader = new FileReader();
    reader.onload = () => done(String(reader.result));
    reader.onerror = () => fail(reader.error ?? new Error('not read'));
    reader.readAsDataURL(blob);
  });
}

/** A picture inside a picture reaches no font of the page, so the font goes along in it. */
async function withFont(svg: SVGSVGElement, part: ReturnType<typeof extentOf>): Promise<string> {
  const [latin, extended] = await Promise.all([dataAddress(normal), dataAddress(wide)]);
  const copy = svg.cloneNode(true) as SVGSVGElement;
  for (const guide of copy.querySelectorAll('.guide')) guide.remove();
  copy.setAttribute('viewBox', `${part.x} ${part.y} ${part.width} ${part.height}`);
  copy.setAttribute('width', String(part.width));
  copy.setAttribute('height', String(part.height));
  const style = document.createElementNS('http://www.w3.org/2000/svg', 'style');
  style.textContent = [
    [latin, 'U+0000-00FF,U+0131,U+0152-0153,U+2000-206F,U+20AC,U+2122,U+2190-2193,U+2212'],
    [extended, 'U+0100-02FF,U+1E00-1EFF'],
  ]
    .map(
      ([src, range]) =>
        `@font-face{font-family:'${FONT.family}';src:url(${src}) format('woff2-variations');font-weight:200 900;unicode-range:${range}}`,
    )
    .join('');
  copy.prepend(style);
  return new XMLSerializer().serializeToString(copy);
}

/** What is drawn, as it stands on the screen: a PNG of twice its size on white. */
export async function drawingPng(svg: SVGSVGElement, drawing: Drawing): Promise<File> {
  const part = extentOf(drawing);
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(await withFont(svg, part))}`;
  await image.decode();
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [part.width * 2, part.height * 2];
  const context = canvas.getContext('2d');
  if (context === null) throw new Error('This browser cannot make a picture of the drawing.');
  context.fillStyle = '#ffffff';
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.drawImage(image, 0, 0, canvas.width, canvas.height);
  const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'));
  if (blob === null) throw new Error('This browser cannot make a picture of the drawing.');
  return new File([blob], 'diagram.png', { type: 'image/png' });
}
