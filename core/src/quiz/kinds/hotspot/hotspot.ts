import { ZERO } from '../../../exact/ratio.ts';
import type { KeyOf, PictureSpot, QuestionPicture, Region } from '../../question.ts';
import { shareRatio } from '../../share.ts';
import { cannotBeGuessed, given, nothingNear, type KindOfQuestion } from '../kindOfQuestion.ts';
import { fail, percent, rulesOf, sharedLine, unquoted, type Reading } from '../tableCells.ts';

const WHOLE = 100_000;

/** Whether a place lies in a region, its edge included; corners of a polygon by the even-odd rule. */
export function isInside(spot: PictureSpot, region: Region): boolean {
  if (region.shape === 'rectangle') {
    const between = (value: number, a: number, b: number): boolean => value >= Math.min(a, b) && value <= Math.max(a, b);
    return between(spot.x, region.from.x, region.to.x) && between(spot.y, region.from.y, region.to.y);
  }
  if (region.shape === 'ellipse') {
    if (region.radius.x <= 0 || region.radius.y <= 0) return false;
    return ((spot.x - region.centre.x) / region.radius.x) ** 2 + ((spot.y - region.centre.y) / region.radius.y) ** 2 <= 1;
  }
  let isIn = false;
  region.corners.forEach((a, n) => {
    const b = region.corners[(n + region.corners.length - 1) % region.corners.length] as PictureSpot;
    if (a.y > spot.y !== b.y > spot.y && spot.x < ((b.x - a.x) * (spot.y - a.y)) / (b.y - a.y) + a.x) isIn = !isIn;
  });
  return isIn;
}

function regionFaults(regions: readonly { readonly region: Region; readonly share: number }[]): string[] {
  const isInPicture = (r: Region): boolean =>
    (r.shape === 'rectangle' ? [r.from, r.to] : r.shape === 'ellipse' ? [r.centre] : r.corners).every(
      (s) => s.x >= 0 && s.x <= 1 && s.y >= 0 && s.y <= 1,
    );
  return [
    ...(regions.some((r) => r.share >= WHOLE) ? [] : ['No place in the picture is worth all the points. Draw one.']),
    ...(regions.every((r) => isInPicture(r.region)) ? [] : ['A place reaches beyond the picture.']),
    ...(regions.some((r) => r.region.shape === 'polygon' && r.region.corners.length < 3)
      ? ['A place with corners has three at least.']
      : []),
  ];
}

function regionLine(share: number, region: Region): string {
  const numbers =
    region.shape === 'rectangle'
      ? [region.from.x, region.from.y, region.to.x, region.to.y]
      : region.shape === 'ellipse'
        ? [region.centre.x, region.centre.y, region.radius.x, region.radius.y]
        : region.corners.flatMap((c) => [c.x, c.y]);
  return `${percent(share)}: ${region.shape} ${numbers.join(' ')}`;
}

function region(line: string): { share: number; region: Region } {
  const { share, rest } = sharedLine(line);
  const [shape = '', ...words] = rest.split(/\s+/);
  const n = words.map(Number);
  const [a = 0, b = 0, c = 0, d = 0] = n;
  const isFour = n.length === 4 && n.every(Number.isFinite);
  if (shape === 'rectangle' && isFour) return { share, region: { shape, from: { x: a, y: b }, to: { x: c, y: d } } };
  if (shape === 'ellipse' && isFour) return { share, region: { shape, centre: { x: a, y: b }, radius: { x: c, y: d } } };
  if (shape === 'polygon' && n.length >= 6 && n.length % 2 === 0 && n.every(Number.isFinite)) {
    const corners = Array.from({ length: n.length / 2 }, (_, k) => ({ x: n[2 * k] ?? 0, y: n[2 * k + 1] ?? 0 }));
    return { share, region: { shape, corners } };
  }
  return fail('answers', line, 'is no place in a picture: rectangle, ellipse or polygon with its numbers.');
}

function pictureOf(r: Reading): QuestionPicture | null {
  let picture: QuestionPicture | null = null;
  rulesOf(r, {
    'picture:': (value) => {
      const [, fileId = '', alt = '""'] = /^file:(\S+)\s*(.*)$/.exec(value) ?? fail('rules', value, 'names no picture.');
      const file = r.fileAt(fileId);
      if (file === null) r.problems.push('its picture is not here; choose it again');
      else picture = { fileId, src: file.src, alt: unquoted(alt, value) };
    },
  });
  return picture;
}

export const hotspot: KindOfQuestion<KeyOf<'hotspot'>> = {
  takes: 'spot',
  begin: () => ({ kind: 'hotspot', regions: [] }),
  asked: (_, __, { picture }) => ({ picture }),
  faults: (key, { picture }) => [...(picture === null ? ['There is no picture yet.'] : []), ...regionFaults(key.regions)],
  inWords: () => [],
  score: (key, answer) => {
    if (answer.kind !== 'spot') return null;
    const hit = key.regions.filter((r) => isInside(answer.spot, r.region));
    return hit.length === 0
      ? given(ZERO, 'Outside every region.')
      : given(shareRatio(hit.reduce((most, r) => Math.max(most, r.share), -Infinity)), 'Inside a region.');
  },
  guessing: cannotBeGuessed,
  near: nothingNear,
  cells: (key, { picture }) => ({
    answers: key.regions.map((r) => regionLine(r.share, r.region)),
    rules: picture === null ? [] : [`picture: file:${picture.fileId} ${JSON.stringify(picture.alt).replaceAll(';', '\\u003b')}`],
  }),
  read: (reading) => ({
    key: { kind: 'hotspot', regions: reading.lines.map((line) => ({ id: reading.newId(), ...region(line) })) },
    picture: pictureOf(reading),
  }),
};
