import { paragraphs } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import { seeded, type Random } from './random.ts';

const OPENINGS = [
  'The movement {arrived|came in|reached me} stopped, {fully wound|wound to the top|with its spring full}.',
  'The watch runs for {two|about three|barely two} minutes and {stops dial down|stands still on its face}.',
  'The owner {reports|says|complains} that it gains {about four|nearly five|some three} minutes {a day|in a day|each day}.',
  'The movement {came|arrived} dry, with {old|brown|hardened} oil at {the pivots|most pivots|every pivot I could see}.',
];
const OUTSIDES = [
  'The dial is {sound|clean|whole} apart from a {hairline|fine crack|scratch} at {four|five|half past three}.',
  'The case back {has been|was once} opened with {the wrong tool|a knife|something that was no key}.',
  'The crown turns {without grip|as if on nothing|freely and winds nothing}.',
  'The hands are {straight|true|unbent} and the glass {is clear|has no mark|is new}.',
];
const FINDINGS = [
  'Removing the balance {showed|revealed|brought to light} the lower pivot {bent|out of true|leaning} and the roller jewel {loose in its shellac|moving in its seat}, which by itself {explains|accounts for|is reason enough for} the stoppage.',
  'The hairspring {touches|catches|brushes} the {second stud screw|regulator pin|centre wheel} at {full|high|its largest} amplitude, and the trace {doubles|splits|shows two lines} there.',
  'The pallet stones are {clean|sound|unchipped}, with a bright line of wear on the {entry|exit} stone.',
  'The {fourth|third|centre} wheel {shows|has} one tooth {burred|bruised|bent} at the tip.',
  'The barrel arbor is {scored|worn|cut} where it {meets|runs in|enters} the bridge.',
  'One banking pin {has been|was} bent by {an earlier hand|someone before me|a previous repairer}.',
];
const MEASURES = [
  'I measured end-shake of the {balance|fourth wheel|escape wheel} at {0.04|0.05|0.06} mm and {judged|thought|found} it {slightly generous|a little large|on the free side} but {usable|safe to leave|within what I was taught}.',
  'Amplitude is {214|221|208} degrees dial up and {188|192|183} dial down, both {low|lower than they should be|poor}.',
  'The train {turns|runs|spins} freely down to the escape wheel {with a breath of air|when I blow on it|at the lightest touch}.',
  'I counted {18,000 beats an hour|five beats in a second} against the train and {found it agrees|it agrees|the two agree}.',
];
const ORDERS = [
  'Before cleaning I {let the train down|took the power off} from the barrel and {noted|wrote down|drew} the order of screws {in the log|on a sheet|as I went}.',
  'I took off the balance {first|before anything else}, so that {nothing could fall on it|it was out of harm’s way}.',
  'Each screw {was laid|went} in the tray in the order it {came out|left its hole|was undone}.',
];
const OILS = [
  'Oil in the centre hole had {turned to varnish|gone hard|become a brown skin}; I would {peg every hole|peg them all} rather than {trust the bath|rely on the machine}.',
  'The keyless work had grease where {it wants none|none belongs|there should be none}.',
  'There was {no oil at all|not a trace of oil|nothing but dust} on the {pallet stones|impulse faces}.',
];
const ADVICE = [
  'My {recommendation|advice|proposal} is to {straighten|true|try to straighten} the pivot, {reset|fix} the jewel with fresh shellac, and {replace|change} the {fourth|third} wheel from stock.',
  'I {recommend|would suggest|advise} a full clean, a new mainspring and {no more than that|nothing else|leave the rest as it is}.',
  'I would leave the case marks {as they are|untouched|alone}: they {belong to|are part of|tell the story of} the watch.',
];
const SLOT = /\{([^{}|]*(?:\|[^{}|]*)+)\}/g;

/** One way of saying it: nobody writes quite the words of another. */
const said = (random: Random, text: string): string => text.replace(SLOT, (_slot, ways: string) => random.pick(ways.split('|')));

/** A number from words, so that how something is said draws nothing from the chance of the school. */
const numberOf = (words: string): number => [...words].reduce((sum, c) => Math.imul(sum ^ c.charCodeAt(0), 0x01000193), 0x811c9dc5) >>> 0;

/** A piece of student writing, longer from the able; no two quite alike. */
export function writeWork(random: Random, ability: number, title: string): DocumentNode {
  const voice = seeded(numberOf(`${title} ${ability}`));
  const many = Math.max(1, Math.min(3, Math.round(1.7 + ability)));
  const findings = Array.from({ length: many }, () => random.pick(FINDINGS)).filter((text, n, all) => all.indexOf(text) === n);
  const lines = [
    `${random.pick(OPENINGS)} ${random.pick(OUTSIDES)} ${findings.join(' ')}`,
    `${random.pick(MEASURES)} ${random.pick(FINDINGS)}`,
    ...(ability > -0.4 ? [`${random.pick(ORDERS)} ${random.pick(OILS)}`] : []),
    random.pick(ADVICE),
  ];
  const body = paragraphs(...lines.map((line) => said(voice, line)));
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
  const voice = seeded(numberOf(title));
  return {
    type: 'doc',
    content: [
      say(
        text(
          `${title} is where careful work begins. Read this with a movement in front of you, and stop at every sentence that you cannot yet do with your hands.`,
        ),
      ),
      { type: 'heading', attrs: { level: 2 }, content: [text('What to look for')] },
      say(text(said(voice, random.pick(MEASURES))), text(' '), text(said(voice, random.pick(FINDINGS)))),
      {
        type: 'bulletList',
        content: [random.pick(ORDERS), random.pick(OILS), random.pick(OUTSIDES)]
          .map((words) => said(voice, words))
          .map((words) => ({
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

/** A passage that stands in two works word for word, and one out of the collection. */
export const COPIED =
  'The lever is held to its banking by draw, and I tried it by moving it a little and letting go: on the entry side it came back by itself, on the exit side it stayed where I had put it, so the stone sits too shallow.';
export const FROM_THE_COLLECTION =
  'A condition report is written for a client who has never opened a watch. It says first what the watch does and does not do, then what was found and by what means, then what should be done and what is better left alone.';
