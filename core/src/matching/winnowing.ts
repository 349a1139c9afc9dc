/** A hash that stands for a run of words, and where that run begins. */
export interface Fingerprint {
  readonly hash: number;
  readonly at: number;
}

/** How fine the net is: runs of `k` words are hashed, and of each window of `w` of them one is kept. */
export interface Net {
  readonly k: number;
  readonly w: number;
}
/** Every match of at least eleven words is found. */
export const USUAL_NET: Net = { k: 5, w: 7 };

/** FNV-1a over the characters of a word, 32 bits. */
function wordHash(word: string): number {
  let hash = 0x811c9dc5;
  for (let n = 0; n < word.length; n += 1) hash = Math.imul(hash ^ word.charCodeAt(n), 0x01000193);
  return hash >>> 0;
}

/** The hash of each run of k words, as unsigned 32-bit numbers: a polynomial in the words' hashes, carried along from run to run. */
export function runHashes(words: readonly string[], k: number): Uint32Array {
  const many = Math.max(0, words.length - k + 1);
  const hashes = new Uint32Array(many);
  if (many === 0) return hashes;
  const base = 0x9e3779b1;
  let top = 1;
  for (let n = 1; n < k; n += 1) top = Math.imul(top, base);
  const single = words.map(wordHash);
  let hash = 0;
  for (let n = 0; n < words.length; n += 1) {
    if (n >= k) hash = (hash - Math.imul(single[n - k] as number, top)) | 0;
    hash = (Math.imul(hash, base) + (single[n] as number)) | 0;
    // Stirred, so that the least hash of a window is as good as any chosen at random.
    if (n >= k - 1) hashes[n - k + 1] = Math.imul(hash ^ (hash >>> 15), 0x85ebca6b) >>> 0;
  }
  return hashes;
}

/**
 * The fingerprints of a text by winnowing: of every window of `w` consecutive runs of `k` words the least hash is kept, the rightmost
 * where several are least, each once. Two texts that share `w + k − 1` words in a row share a fingerprint; nothing shorter than `k`
 * words does. A text of fewer than `k` words has none; one of fewer runs than a window is one window. k and w are whole, at least 1.
 * Source: S. Schleimer, D. Wilkerson and A. Aiken, Winnowing, SIGMOD 2003.
 * Worked example: hashes 77 74 42 17 98 50 17 98 8 88 67 39 77 74 42 17 98 with w = 4 keep 17, 17, 8, 39, 17 (theirs).
 */
export function winnow(hashes: Uint32Array, w: number): readonly Fingerprint[] {
  const kept: Fingerprint[] = [];
  const many = hashes.length;
  if (many === 0) return kept;
  const width = Math.min(w, many);
  let least = -1;
  for (let end = width - 1; end < many; end += 1) {
    const start = end - width + 1;
    if (least < start) {
      least = start;
      for (let n = start + 1; n <= end; n += 1) if ((hashes[n] as number) <= (hashes[least] as number)) least = n;
    } else if ((hashes[end] as number) <= (hashes[least] as number)) least = end;
    else continue;
    kept.push({ hash: hashes[least] as number, at: least });
  }
  return kept;
}

export const fingerprints = (words: readonly string[], net: Net): readonly Fingerprint[] => winnow(runHashes(words, net.k), net.w);
