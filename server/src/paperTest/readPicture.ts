import { createCanvas, loadImage, type Image } from '@napi-rs/canvas';
import type { Box, GreyImage, SheetPlace } from '@rosemary/core';
import { invalid } from '../platform/errors.ts';

/** Wider than this tells no more of a circle, and takes longer. */
const WIDEST = 1700;
const MOST_PIXELS = 80_000_000;

async function open(bytes: Buffer): Promise<Image> {
  let image: Image;
  try {
    image = await loadImage(bytes);
  } catch {
    throw invalid('file', 'This picture is broken and cannot be opened. Scan the page again.');
  }
  if (image.width * image.height > MOST_PIXELS)
    throw invalid(
      'file',
      `This picture has ${image.width} by ${image.height} points, which is more than is read. Scan at 150 to 300 dots an inch.`,
    );
  return image;
}

/** A picture of a page in grey, made smaller where it is very large. */
export async function readPicture(bytes: Buffer): Promise<GreyImage> {
  const image = await open(bytes);
  const scale = Math.min(1, WIDEST / Math.min(image.width, image.height));
  const [width, height] = [Math.round(image.width * scale), Math.round(image.height * scale)];
  const context = createCanvas(width, height).getContext('2d');
  // What is see-through is paper.
  context.fillStyle = '#fff';
  context.fillRect(0, 0, width, height);
  context.drawImage(image, 0, 0, width, height);
  const { data } = context.getImageData(0, 0, width, height);
  const pixels = new Uint8Array(width * height);
  // Luma after ITU-R BT.601, in whole numbers.
  for (let n = 0, at = 0; n < pixels.length; n += 1, at += 4)
    pixels[n] = ((data[at] as number) * 77 + (data[at + 1] as number) * 150 + (data[at + 2] as number) * 29) >> 8;
  return { width, height, pixels };
}

/** A part of a page cut out and set upright, from where its corners are in the picture: `at` takes places of the sheet to shares of the picture. */
export async function cutOut(bytes: Buffer, box: Box, at: (place: SheetPlace) => SheetPlace): Promise<Buffer> {
  const image = await open(bytes);
  const PER_MM = 6;
  const [width, height] = [Math.round(box.width * PER_MM), Math.round(box.height * PER_MM)];
  const canvas = createCanvas(width, height);
  const context = canvas.getContext('2d');
  context.fillStyle = '#fff';
  context.fillRect(0, 0, width, height);
  const toPixels = (place: SheetPlace): SheetPlace => {
    const p = at(place);
    return { x: p.x * image.width, y: p.y * image.height };
  };
  // Over so small a part the picture lies flat: three corners say how it is turned.
  const [o, right, down] = [
    toPixels({ x: box.x, y: box.y }),
    toPixels({ x: box.x + box.width, y: box.y }),
    toPixels({ x: box.x, y: box.y + box.height }),
  ];
  const [ax, ay] = [(right.x - o.x) / width, (right.y - o.y) / width];
  const [bx, by] = [(down.x - o.x) / height, (down.y - o.y) / height];
  const whole = ax * by - bx * ay;
  context.setTransform(by / whole, -ay / whole, -bx / whole, ax / whole, (bx * o.y - by * o.x) / whole, (ay * o.x - ax * o.y) / whole);
  context.drawImage(image, 0, 0);
  return canvas.toBuffer('image/png');
}
