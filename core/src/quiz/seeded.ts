/**
 * Numbers from 0 up to, but not, 1 that are the same each time for the same words: a student's attempt is drawn from its stored seed and can
 * be drawn again. The words are spread over four 32-bit states (FNV-1a with a final mixing each), the numbers come from sfc32, a small fast
 * counting generator by C. Doty-Humphrey whose period is at least 2^32. Not for secrets.
 * Worked example: two generators of `attempt 1` give the same numbers, and none of `attempt 2`'s.
 */
export function seeded(words: string): () => number {
  const state = (salt: number): number => {
    let hash = 0x811c9dc5 ^ salt;
    for (let n = 0; n < words.length; n += 1) hash = Math.imul(hash ^ words.charCodeAt(n), 0x01000193);
    hash = Math.imul(hash ^ (hash >>> 16), 0x85ebca6b);
    hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2ae35);
    return (hash ^ (hash >>> 16)) >>> 0;
  };
  let [a, b, c, count] = [state(1), state(2), state(3), 1];
  const next = (): number => {
    const sum = (((a + b) | 0) + count) | 0;
    count = (count + 1) | 0;
    a = b ^ (b >>> 9);
    b = (c + (c << 3)) | 0;
    c = (c << 21) | (c >>> 11);
    c = (c + sum) | 0;
    return (sum >>> 0) / 4_294_967_296;
  };
  // The first few still show the seed.
  for (let n = 0; n < 15; n += 1) next();
  return next;
}
