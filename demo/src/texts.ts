import { paragraphs } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import type { Random } from './random.ts';

const OPENINGS = [
  'The movement arrived stopped, fully wound.',
  'The watch runs for two minutes and stops dial down.',
  'The owner reports that it gains about four minutes a day.',
  'The movement came dry, with old oil at the pivots.',
];
const OUTSIDES = [
  'The dial is sound apart from a hairline at four.',
  'The case back has been opened with the wrong tool.',
  'The crown turns without grip.',
  'The hands are straight and the glass is clear.',
];
const FINDINGS = [
  'Removing the balance showed the lower pivot bent and the roller jewel loose in its shellac, which by itself explains the stoppage.',
  'The hairspring touches the second stud screw at full amplitude, and the trace doubles there.',
  'The pallet stones are clean, with a bright line of wear on the entry stone.',
  'The fourth wheel shows one tooth burred at the tip.',
  'The barrel arbor is scored where it meets the bridge.',
  'One banking pin has been bent by an earlier hand.',
];
const MEASURES = [
  'I measured end-shake of the balance at 0.04 mm and judged it slightly generous but usable.',
  'Amplitude is 214 degrees dial up and 188 dial down, both low.',
  'The train turns freely down to the escape wheel with a breath of air.',
  'I counted 18,000 beats an hour against the train and found it agrees.',
];
const ORDERS = [
  'Before cleaning I let the train down from the barrel and noted the order of screws in the log.',
  'I took off the balance first, so that nothing could fall on it.',
  'Each screw was laid in the tray in the order it came out.',
];
const OILS = [
  'Oil in the centre hole had turned to varnish; I would peg every hole rather than trust the bath.',
  'The keyless work had grease where it wants none.',
  'There was no oil at all on the pallet stones.',
];
const ADVICE = [
  'My recommendation is to straighten the pivot, reset the jewel with fresh shellac, and replace the fourth wheel from stock.',
  'I recommend a full clean, a new mainspring and no more than that.',
  'I would leave the case marks as they are: they belong to the watch.',
];

/** A piece of student writing, longer from the able; no two quite alike. */
export function writeWork(random: Random, ability: number, title: string): DocumentNode {
  const many = Math.max(1, Math.min(3, Math.round(1.7 + ability)));
  const findings = Array.from({ length: many }, () => random.pick(FINDINGS)).filter((text, n, all) => all.indexOf(text) === n);
  const body = paragraphs(
    `${random.pick(OPENINGS)} ${random.pick(OUTSIDES)} ${findings.join(' ')}`,
    `${random.pick(MEASURES)} ${random.pick(FINDINGS)}`,
    ...(ability > -0.4 ? [`${random.pick(ORDERS)} ${random.pick(OILS)}`] : []),
    random.pick(ADVICE),
  );
  return {
    ...body,
    content: [
      {
        type: 'heading',
        attrs: { level: 2 },
        content: [{ type: 'text', text: title === 'Condition report' ? 'Condition report: lever movement, 15 jewels' : title }],
      },
      ...(body.content ?? []),
    ],
  };
}

export const FEEDBACK = [
  'Careful work. Say how far off true the pivot is: the client will ask.',
  'You see well; now measure what you see.',
  'The order is safe and the reasons convince.',
  'Good bones. Read it aloud once before you hand it in.',
  'The main fault is here, but the second one is not named.',
];

export const NOTE_TEXTS = [
  'Well seen. Say how far off true: the client will ask.',
  'Give the limit you judge against. 0.03–0.05 is usual here.',
  'This is the sentence the client needs. Put it first.',
  'How do you know? Name the tool.',
];

const bold = (text: string): DocumentNode => ({ type: 'text', text, marks: [{ type: 'bold' }] });
const say = (...content: DocumentNode[]): DocumentNode => ({ type: 'paragraph', content });
const text = (words: string): DocumentNode => ({ type: 'text', text: words });

/** The reading of a page: a lead, two short parts and a caution. */
export function writePage(title: string, random: Random): DocumentNode {
  return {
    type: 'doc',
    content: [
      say(
        text(
          `${title} is where careful work begins. Read this with a movement in front of you, and stop at every sentence that you cannot yet do with your hands.`,
        ),
      ),
      { type: 'heading', attrs: { level: 2 }, content: [text('What to look for')] },
      say(text(random.pick(MEASURES)), text(' '), text(random.pick(FINDINGS))),
      {
        type: 'bulletList',
        content: [random.pick(ORDERS), random.pick(OILS), random.pick(OUTSIDES)].map((words) => ({
          type: 'listItem',
          content: [say(text(words))],
        })),
      },
      {
        type: 'callout',
        content: [
          say(
            bold('Take care. '),
            text('Let the power down before you touch a bridge. A train under power takes the tip of a pivot with it.'),
          ),
        ],
      },
      { type: 'heading', attrs: { level: 2 }, content: [text('Try it')] },
      say(text('Turn the fourth wheel by a breath of air only. If it stops in less than a turn, find out why before you read on.')),
    ],
  };
}

export const TASKS: { readonly [take: string]: string } = {
  text: 'Write it here, in whole sentences, for a client who has never opened a watch. Three or four paragraphs are enough.',
  pdf: 'Draw or work on paper, scan it as one PDF, and hand that in. Label every part that you name.',
  both: 'Write the log here as you go, and add the drawing or the table as a PDF.',
};
