import { readRows, seeded, setStraight, sheetLayout, type GreyImage } from '@rosemary/core';
import { answerSheets, readPicture } from '@rosemary/server';
import { fillPage, printPages, scan, type Filled, type Hand } from '@rosemary/standins';

/** 500 answer sheets printed, filled by many hands, put through a poor machine and read again: errors, doubts, seconds a sheet. */
const MANY = Number(process.env.SHEETS ?? '500');
const QUESTIONS = 60;
const random = seeded('sheets');
const pages = sheetLayout({
  questions: Array.from({ length: QUESTIONS }, () => ({ options: 5, isMany: false })),
  columns: 3,
  spacing: 'roomy',
  alternates: true,
});
const [page] = pages;
if (page === undefined) throw new Error('No page.');
const HANDS: readonly Hand[] = ['full', 'full', 'full', 'full', 'soft', 'soft', 'tick', 'cross'];
const count = { rows: 0, wrong: 0, doubts: 0, rightDoubts: 0, unread: 0, mistaken: 0 };
const wrongBy = new Map<Hand, number>();
let [decoding, reading, bytes] = [0, 0, 0];
const CHUNK = 25;
for (let first = 1; first <= MANY; first += CHUNK) {
  const sheets = Array.from({ length: Math.min(CHUNK, MANY - first + 1) }, (_, n) => ({
    number: first + n,
    name: `Student ${first + n}`,
    section: 'Morning',
    form: '',
  }));
  const printed = await printPages(await answerSheets({ title: 'Bench', course: 'HOR-110', test: 77, pages, sheets }), 150);
  for (const [n, paper] of printed.entries()) {
    const number = first + n;
    const hand = HANDS[Math.floor(random() * HANDS.length)] ?? 'full';
    const rows = new Map<number, Filled>();
    for (let q = 0; q < QUESTIONS; q += 1) {
      const option = Math.floor(random() * 5);
      const chance = random();
      // One in twenty is left out, one in a hundred rubbed out and left so, one in seventeen changed.
      if (chance < 0.05) rows.set(q, { marked: [] });
      else if (chance < 0.06) rows.set(q, { marked: [], rubbedOut: [option] });
      else if (chance < 0.12) rows.set(q, { marked: [option], rubbedOut: [(option + 1 + Math.floor(random() * 4)) % 5] });
      else rows.set(q, { marked: [option] });
    }
    const wish = {
      seed: `sheet ${number}`,
      hand,
      dots: 100 + Math.floor(random() * 100),
      isUpsideDown: random() < 0.05,
      trouble: random() * 0.9,
      type: random() < 0.3 ? 'image/png' : 'image/jpeg',
    } as const;
    const file = scan(fillPage(paper, page, rows, wish), wish);
    bytes += file.length;
    let begun = performance.now();
    const image: GreyImage = await readPicture(file);
    decoding += performance.now() - begun;
    begun = performance.now();
    const found = setStraight(image);
    const read = found.ok ? readRows(image, found.sheet, page) : [];
    reading += performance.now() - begun;
    if (!found.ok) {
      count.unread += 1;
      process.stdout.write(`  sheet ${number} (${hand}, ${wish.dots} dots, trouble ${wish.trouble.toFixed(2)}): ${found.reason}\n`);
      continue;
    }
    if (found.sheet.code.sheet !== number) count.mistaken += 1;
    for (const row of read) {
      const wanted = rows.get(row.question)?.marked ?? [];
      const isRight = row.marked.join() === wanted.join();
      count.rows += 1;
      if (row.doubt !== null) {
        count.doubts += 1;
        if (isRight) count.rightDoubts += 1;
      } else if (!isRight) {
        count.wrong += 1;
        wrongBy.set(hand, (wrongBy.get(hand) ?? 0) + 1);
      }
    }
  }
}
const share = (n: number): string => `${((100 * n) / count.rows).toFixed(3)} %`;
process.stdout.write(
  `${MANY} sheets of ${QUESTIONS} questions, ${(bytes / MANY / 1024).toFixed(0)} kB each\n` +
    `sheets not set straight (shown to a person whole): ${count.unread}; taken for another sheet: ${count.mistaken}\n` +
    `rows read wrong without a doubt: ${count.wrong} of ${count.rows} (${share(count.wrong)}) ${[...wrongBy].map(([h, n]) => `${h} ${n}`).join(', ')}\n` +
    `rows shown to a person: ${count.doubts} (${share(count.doubts)}), of which already right: ${count.rightDoubts}\n` +
    `reading: ${(reading / MANY).toFixed(1)} ms a sheet; floor, decoding the picture: ${(decoding / MANY).toFixed(1)} ms; ratio ${(reading / decoding).toFixed(2)}\n`,
);
