/** What of the style of a shape is written into a picture that is taken out, where no style sheet follows it. */
const STYLES = [
  ...['fill', 'fill-opacity', 'stroke', 'stroke-width', 'stroke-dasharray', 'stroke-opacity', 'opacity'],
  ...['font-family', 'font-size', 'font-weight', 'font-style', 'text-anchor'],
] as const;
const MARGIN = 12;
/** A PNG has twice the points of the screen, so that it is sharp on paper. */
const SCALE = 2;

function writeStyles(from: Element, to: Element): void {
  const style = getComputedStyle(from);
  for (const name of STYLES) to.setAttribute(name, style.getPropertyValue(name));
  for (const name of ['class', 'style', 'tabindex', 'role', 'data-mark']) to.removeAttribute(name);
  for (const name of to.getAttributeNames()) if (name.startsWith('data-v-')) to.removeAttribute(name);
  [...from.children].forEach((child, n) => {
    const copy = to.children[n];
    if (copy !== undefined) writeStyles(child, copy);
  });
}

/** A chart as a picture of its own: with its title, its styles written into it and the paper under it. */
export function chartSvg(chart: SVGSVGElement, title: string): { readonly text: string; readonly width: number; readonly height: number } {
  const box = chart.viewBox.baseVal;
  const copy = chart.cloneNode(true) as SVGSVGElement;
  writeStyles(chart, copy);
  const [width, height] = [box.width + 2 * MARGIN, box.height + 2 * MARGIN];
  const page = getComputedStyle(document.documentElement);
  const paper = document.createElementNS('http://www.w3.org/2000/svg', 'rect');
  const at = { x: -MARGIN, y: -MARGIN, width, height, fill: page.getPropertyValue('--paper').trim() || '#ffffff' };
  for (const [name, value] of Object.entries(at)) paper.setAttribute(name, String(value));
  const words = document.createElementNS('http://www.w3.org/2000/svg', 'title');
  words.textContent = title;
  copy.prepend(words, paper);
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  copy.setAttribute('viewBox', `${-MARGIN} ${-MARGIN} ${width} ${height}`);
  copy.setAttribute('width', String(width));
  copy.setAttribute('height', String(height));
  return { text: new XMLSerializer().serializeToString(copy), width, height };
}

/** The same picture as points. */
export async function chartPng(chart: SVGSVGElement, title: string): Promise<Blob> {
  const { text, width, height } = chartSvg(chart, title);
  const picture = new Image();
  picture.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(text)}`;
  await picture.decode();
  const canvas = document.createElement('canvas');
  canvas.width = width * SCALE;
  canvas.height = height * SCALE;
  canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height);
  return new Promise((done, fail) => {
    canvas.toBlob((blob) => {
      if (blob === null) fail(new Error('The picture is too large to be drawn. Take it as SVG.'));
      else done(blob);
    }, 'image/png');
  });
}
