import { PNG } from 'pngjs';

type Colour = readonly [red: number, green: number, blue: number];
const GROUND: Colour = [246, 241, 228];
const BRASS: Colour = [184, 146, 58];
const STEEL: Colour = [84, 98, 104];
const INK: Colour = [34, 48, 42];

interface Wheel {
  readonly x: number;
  readonly y: number;
  readonly radius: number;
  readonly teeth: number;
  readonly turn: number;
  readonly colour: Colour;
  readonly spokes: number;
}
/** Three wheels of a going train with their pinions, in thousandths of the width of the picture. */
const TRAIN: readonly Wheel[] = [
  { x: 215, y: 175, radius: 150, teeth: 48, turn: 0, colour: BRASS, spokes: 5 },
  { x: 377, y: 150, radius: 18, teeth: 8, turn: 0.2, colour: STEEL, spokes: 0 },
  { x: 377, y: 150, radius: 118, teeth: 40, turn: 0.05, colour: BRASS, spokes: 5 },
  { x: 509, y: 180, radius: 17, teeth: 8, turn: 0.1, colour: STEEL, spokes: 0 },
  { x: 509, y: 180, radius: 98, teeth: 36, turn: 0.02, colour: BRASS, spokes: 4 },
  { x: 618, y: 150, radius: 15, teeth: 7, turn: 0.3, colour: STEEL, spokes: 0 },
  { x: 618, y: 150, radius: 66, teeth: 15, turn: 0.12, colour: STEEL, spokes: 4 },
];

/** How much of a wheel covers a place: its rim with teeth, its spokes, its hub; nothing between them. */
function covers(wheel: Wheel, x: number, y: number): Colour | null {
  const [dx, dy] = [x - wheel.x, y - wheel.y];
  const r = Math.hypot(dx, dy);
  if (r > wheel.radius * 1.06) return null;
  const angle = Math.atan2(dy, dx) / (2 * Math.PI) + 1 + wheel.turn;
  const inTooth = (angle * wheel.teeth) % 1 < 0.5;
  if (r > wheel.radius * (inTooth ? 1.06 : 0.97)) return null;
  const isPinion = wheel.spokes === 0;
  const toSpoke = Math.abs(((angle * wheel.spokes + 0.5) % 1) - 0.5) / Math.max(1, wheel.spokes);
  const inSpoke = !isPinion && toSpoke * 2 * Math.PI * r < wheel.radius * 0.045;
  if (!isPinion && r < wheel.radius * 0.84 && r > wheel.radius * 0.16 && !inSpoke) return null;
  if (r < wheel.radius * (isPinion ? 0.3 : 0.035)) return INK;
  return wheel.colour;
}

/** A drawing of a going train, drawn anew at each start and always the same. */
export function drawTrain(width = 1120, height = 420): Buffer {
  const png = new PNG({ width, height });
  const unit = 760 / width;
  for (let py = 0; py < height; py += 1)
    for (let px = 0; px < width; px += 1) {
      // Four looks at each dot make the edges smooth.
      const sum = [0, 0, 0];
      for (const [ox, oy] of [
        [0.25, 0.25],
        [0.75, 0.25],
        [0.25, 0.75],
        [0.75, 0.75],
      ] as const) {
        const [x, y] = [(px + ox) * unit, (py + oy) * unit + 16];
        const colour = TRAIN.reduceRight<Colour | null>((found, wheel) => found ?? covers(wheel, x, y), null) ?? GROUND;
        for (let c = 0; c < 3; c += 1) sum[c] = (sum[c] ?? 0) + (colour[c] ?? 0);
      }
      const at = (py * width + px) * 4;
      for (let c = 0; c < 3; c += 1) png.data[at + c] = Math.round((sum[c] ?? 0) / 4);
      png.data[at + 3] = 255;
    }
  return PNG.sync.write(png);
}

/** Three seconds of a movement at 18,000 beats an hour, as a WAV of 8 kHz: tick and tock a fifth of a second apart. */
export function soundOfBeat(): Buffer {
  const rate = 8000;
  const samples = rate * 3;
  const data = Buffer.alloc(44 + samples * 2);
  data.write('RIFF', 0, 'latin1');
  data.writeUInt32LE(36 + samples * 2, 4);
  data.write('WAVEfmt ', 8, 'latin1');
  data.writeUInt32LE(16, 16);
  data.writeUInt16LE(1, 20);
  data.writeUInt16LE(1, 22);
  data.writeUInt32LE(rate, 24);
  data.writeUInt32LE(rate * 2, 28);
  data.writeUInt16LE(2, 32);
  data.writeUInt16LE(16, 34);
  data.write('data', 36, 'latin1');
  data.writeUInt32LE(samples * 2, 40);
  for (let n = 0; n < samples; n += 1) {
    const beat = Math.floor(n / (rate / 5));
    const since = (n % (rate / 5)) / rate;
    const pitch = beat % 2 === 0 ? 2400 : 2000;
    data.writeInt16LE(Math.round(Math.sin(2 * Math.PI * pitch * since) * Math.exp(-since * 180) * 20_000), 44 + n * 2);
  }
  return data;
}

/** A lever at the moment of locking, seen from above: a tooth on the face of a stone; five drawings, each a little otherwise. */
export function drawEscapement(turn: number): Buffer {
  const kind = turn % LOCKS.length;
  return (LOCKS[kind] ??= drawLock(kind));
}
const LOCKS: (Buffer | null)[] = Array.from({ length: 5 }, () => null);

function drawLock(kind: number, width = 384, height = 264): Buffer {
  const png = new PNG({ width, height });
  const unit = 640 / width;
  const wheel: Wheel = { x: 300, y: 300, radius: 190, teeth: 15, turn: kind / 60, colour: BRASS, spokes: 4 };
  const tilt = (kind - 2) / 30;
  const jewel: Colour = [168, 60, 84];
  const inStone = (x: number, y: number, cx: number): boolean => Math.abs(x - cx - (y - 95) * tilt) < 9 && Math.abs(y - 95) < 34;
  const inLever = (x: number, y: number): boolean => Math.abs(y - 62 - (x - 300) * tilt * 0.3) < 13 && Math.abs(x - 300) < 170;
  for (let py = 0; py < height; py += 1)
    for (let px = 0; px < width; px += 1) {
      const [x, y] = [px * unit, py * unit];
      const colour = inStone(x, y, 190) || inStone(x, y, 410) ? jewel : inLever(x, y) ? STEEL : (covers(wheel, x, y) ?? GROUND);
      const at = (py * width + px) * 4;
      for (let c = 0; c < 3; c += 1) png.data[at + c] = colour[c] ?? 0;
      png.data[at + 3] = 255;
    }
  return PNG.sync.write(png);
}
