import { findMatches, foldedWords, prepareText, PrintIndex, runHashes, USUAL_NET } from '@rosemary/core';

/** Text matching of 500 essays of 2,000 words against one another: time and memory, beside reading and hashing the same words once. */
const ESSAYS = 500;
const WORDS = 2000;
let state = 11;
const chance = (): number => {
  state = (state + 0x6d2b79f5) | 0;
  let t = Math.imul(state ^ (state >>> 15), 1 | state);
  t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
  return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
};
// As unequal as the words of a language, of which few make up most of a text.
const word = (): string => `word${Math.floor(8000 * chance() ** 3)}`;
const texts = Array.from({ length: ESSAYS }, () => Array.from({ length: WORDS }, word));
// One essay in ten has a passage of a hundred words of another.
for (let n = 0; n < ESSAYS; n += 10) texts[n]?.splice(300, 100, ...(texts[(n + 7) % ESSAYS] ?? []).slice(500, 600));
const written = texts.map((words) => words.join(' '));

const floorAt = performance.now();
for (const text of written)
  runHashes(
    foldedWords(text).map((w) => w.word),
    USUAL_NET.k,
  );
const floor = performance.now() - floorAt;

globalThis.gc?.();
const before = process.memoryUsage().heapUsed;
const at = performance.now();
const index = new PrintIndex();
const prepared = written.map((text, n) => prepareText(String(n), text, USUAL_NET));
for (const text of prepared) index.add(text);
let found = 0;
for (const text of prepared) found += findMatches(text, index, USUAL_NET).length > 0 ? 1 : 0;
const took = performance.now() - at;
const held = (process.memoryUsage().heapUsed - before) / 1_048_576;
process.stdout.write(
  `text matching, ${ESSAYS} essays × ${WORDS} words, each against all: ${took.toFixed(0)} ms, ${held.toFixed(0)} MB held; ${(took / floor).toFixed(2)} × reading and hashing the same words once (${floor.toFixed(0)} ms); ${found} essays share a passage with another, ${2 * Math.ceil(ESSAYS / 10)} were made to\n`,
);
