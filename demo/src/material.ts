import { paragraphs } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import {
  addItem,
  addUnit,
  changeItem,
  changeSettings,
  findPage,
  getPlanItem,
  getSettings,
  savePage,
  saveShownFile,
} from '@rosemary/server';
import { readFileSync } from 'node:fs';
import { addTo, putFile, type Adding } from './adding.ts';
import { publish } from './publish.ts';
import { drawTrain, soundOfBeat } from './media.ts';
import { drawPaper } from './papers.ts';

/** What was made beforehand lies beside the source, and beside the program made of it. */
const made = (name: string): Buffer => readFileSync(new URL(`../media/${name}`, import.meta.url));

const text = (words: string): DocumentNode => ({ type: 'paragraph', content: [{ type: 'text', text: words }] });

/** A page with more than words: a formula and a question to check oneself. */
async function enrichPage(a: Adding, train: string): Promise<void> {
  const { db, built } = a;
  const item = built.items.find((i) => i.title === 'Counting a train');
  const page = item === undefined ? null : await findPage(db, item.id);
  if (item === undefined || page === null) return;
  const question = {
    prompt: 'A centre wheel of 80 leaves a third pinion of 10. How often does the third arbor turn in an hour?',
    answers: [
      { text: 'Eight times', isRight: true, feedback: '80 divided by 10.' },
      { text: 'Once in eight hours', isRight: false, feedback: 'The pinion is driven: it turns faster than its wheel, not slower.' },
      { text: 'Ten times', isRight: false, feedback: 'Ten is the number of its leaves. Divide the teeth by them.' },
    ],
  };
  const beat = await putFile(a, 'Beat at 18,000.wav', soundOfBeat());
  const address = (id: string): string => `/api/courses/${built.courseId}/files/${id}`;
  const picture = {
    ...{
      fileId: train,
      src: address(train),
      alt: 'Three brass wheels in a row, each driving the steel pinion of the next, and the escape wheel at the end',
    },
    ...{
      size: 'full',
      source: 'Drawn for this course',
      licence: 'CC BY 4.0',
      caption: 'Centre, third and fourth wheel, and the escape wheel',
    },
  };
  const sound = {
    ...{ kind: 'audio', fileId: beat, src: address(beat), captionsId: null, captionsSrc: '', title: 'A movement at 18,000 beats an hour' },
    ...{ source: 'Made for this course', licence: 'CC BY 4.0' },
  };
  const [film, captions] = [
    await putFile(a, 'Balance wheel.webm', made('balance.webm')),
    await putFile(a, 'Balance wheel.vtt', made('balance.vtt')),
  ];
  const swing = {
    ...{ kind: 'video', fileId: film, src: address(film), captionsId: captions, captionsSrc: address(captions) },
    ...{ title: 'A balance wheel and its spring, slowed for the eye', source: 'Made for this course', licence: 'CC BY 4.0' },
  };
  const cells = (tag: 'tableHeader' | 'tableCell', ...words: readonly string[]): DocumentNode => ({
    type: 'tableRow',
    content: words.map((word) => ({ type: tag, attrs: { colspan: 1, rowspan: 1, colwidth: null, align: null }, content: [text(word)] })),
  });
  const more: DocumentNode[] = [
    { type: 'picture', attrs: picture },
    {
      type: 'table',
      content: [
        cells('tableHeader', 'Arbor', 'Wheel', 'Pinion', 'Turns in an hour'),
        cells('tableCell', 'Centre', '80', '—', '1'),
        cells('tableCell', 'Third', '75', '10', '8'),
        cells('tableCell', 'Fourth', '70', '10', '60'),
        cells('tableCell', 'Escape', '15', '7', '600'),
      ],
    },
    text('From the centre arbor to the escape arbor the ratios multiply:'),
    {
      type: 'formula',
      attrs: {
        tex: 'i = \\frac{z_2}{z_3} \\cdot \\frac{z_4}{z_5} \\cdot \\frac{z_6}{z_7} = \\frac{80}{10} \\cdot \\frac{75}{10} \\cdot \\frac{70}{7} = 600',
      },
    },
    {
      type: 'callout',
      content: [
        text('Fifteen teeth, two beats a tooth: 600 turns give 18,000 beats an hour, five in a second. Hear it once and you will know it.'),
      ],
    },
    { type: 'media', attrs: sound },
    { type: 'media', attrs: swing },
    { type: 'question', attrs: question },
  ];
  const document = { ...page.document, content: [...(page.document.content ?? []), ...more] };
  const at = built.calendar.at(2, 3, '19:20');
  const saved = await savePage(db, built.courseId, item.id, { document, version: page.version }, a.teacherId, at);
  await publish(db, built.courseId, item.id, saved, at);
}

const STANDING = [
  [
    'Welcome to the bench',
    'This course begins with a screwdriver and ends with a movement that you have taken apart, cleaned, oiled and brought back to time. Every week has its reading, its work at the bench and something to write down.',
    'Come with clean hands. What you drop, you look for; what you break, you say.',
  ],
  [
    'House rules of the workshop',
    'Loupes and tweezers go back to the tray they came from. Nobody works alone with the cleaning machine. Fluids are poured back, never down the sink.',
    'Who is late with a piece of work writes before the date, not after.',
  ],
  [
    'Whom to ask',
    'Ines Okafor-Lind about the course, on Tuesdays and Thursdays at the bench. Teodor Vasko about exercises and logs. Maribel Quennell about tools and the evening bench.',
  ],
] as const;

/** The pages that stand outside the units, and the picture of the course. */
async function addStanding({ db, built, teacherId }: Adding, pictureFileId: string): Promise<void> {
  const { courseId, calendar } = built;
  const unitId = await addUnit(db, courseId, 'Standing pages', true);
  for (const [position, [title, ...lines]] of STANDING.entries()) {
    const id = await addItem(db, courseId, { unitId, kind: 'page', title, position });
    await savePage(db, courseId, id, { document: paragraphs(...lines), version: 1 }, teacherId, calendar.at(1, 1, '08:00'));
    const { version } = await getPlanItem(db, courseId, id, calendar.now);
    await changeItem(db, courseId, id, { version, isDraft: false }, calendar.now);
  }
  const { version } = await getSettings(db, courseId);
  const pictureAlt = 'The wheels of a going train, side by side';
  await changeSettings(db, courseId, { version, pictureFileId, pictureAlt });
}

/** Material that is more than words: a page of many blocks, a file, pages outside the units. */
export async function addMaterial(a: Adding): Promise<void> {
  const { db, built } = a;
  const train = await putFile(a, 'Going train.png', drawTrain());
  await enrichPage(a, train);
  const sheet = await drawPaper('Oil and where it belongs', 'Tallowmere School of Horology', [
    'Train pivots: a drop that fills half the sink',
    'Pallet stones: grease, on the locking face',
    'Barrel wall: grease that brakes, four places',
    'Balance: the lightest oil, both jewels',
  ]);
  const chart = await addTo(a, 'Where oil belongs', 'file', 'Where the oil goes, as a sheet', { isDraft: true });
  const fileId = await putFile(a, 'Where the oil goes.pdf', sheet.bytes);
  await saveShownFile(db, built.courseId, chart, { version: 1, fileId, note: 'Print it for your bench.' }, built.calendar.now);
  await addStanding(a, train);
}
