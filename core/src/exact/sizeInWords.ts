const [KB, MB, GB] = [1024, 1024 ** 2, 1024 ** 3];

/**
 * A number of bytes as people say it: in kilobytes, megabytes or gigabytes of 1,024 each, with one decimal from a megabyte on where it is not
 * zero. Less than a kilobyte that is not nothing is said as one.
 * Worked example: 3,221,225,472 is `3 GB`; 1,572,864 is `1.5 MB`; 300 is `1 kB`; 0 is `0 kB`.
 */
export function sizeInWords(bytes: number): string {
  const tenths = (unit: number): number => Math.round((bytes / unit) * 10) / 10;
  if (bytes >= GB) return `${tenths(GB)} GB`;
  if (bytes >= MB) return `${tenths(MB)} MB`;
  return `${bytes === 0 ? 0 : Math.max(1, Math.round(bytes / KB))} kB`;
}
