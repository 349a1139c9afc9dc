/** A picture in grey: one byte a pixel, row after row, 0 black and 255 white. */
export interface GreyImage {
  readonly width: number;
  readonly height: number;
  readonly pixels: Uint8Array;
}

/** Grey at a place between pixels, by the nearest; outside the picture it is white, as the lid of a scanner is. */
export function greyAt(image: GreyImage, x: number, y: number): number {
  const [column, row] = [Math.round(x), Math.round(y)];
  return column < 0 || row < 0 || column >= image.width || row >= image.height ? 255 : (image.pixels[row * image.width + column] as number);
}

/**
 * Which pixels are dark beside what is around them: below `share` of the mean of the square of side 2·`reach` + 1 about them (Bradley and
 * Roth, “Adaptive thresholding using the integral image”, 2007). Shade that falls off over the page changes nothing.
 * Gives one byte a pixel, 1 where it is dark. Worked example: a black dot on a grey ground of 100 is dark, the ground is not.
 */
export function darkPixels(image: GreyImage, reach: number, share: number): Uint8Array {
  const { width, height, pixels } = image;
  const sums = new Float64Array((width + 1) * (height + 1));
  for (let y = 0; y < height; y += 1) {
    let line = 0;
    for (let x = 0; x < width; x += 1) {
      line += pixels[y * width + x] as number;
      sums[(y + 1) * (width + 1) + x + 1] = (sums[y * (width + 1) + x + 1] as number) + line;
    }
  }
  const dark = new Uint8Array(width * height);
  for (let y = 0; y < height; y += 1) {
    const [top, bottom] = [Math.max(0, y - reach) * (width + 1), Math.min(height, y + reach + 1) * (width + 1)];
    const rows = (bottom - top) / (width + 1);
    for (let x = 0; x < width; x += 1) {
      const [left, right] = [Math.max(0, x - reach), Math.min(width, x + reach + 1)];
      const sum =
        (sums[bottom + right] as number) - (sums[top + right] as number) - (sums[bottom + left] as number) + (sums[top + left] as number);
      if ((pixels[y * width + x] as number) * rows * (right - left) < sum * share) dark[y * width + x] = 1;
    }
  }
  return dark;
}
