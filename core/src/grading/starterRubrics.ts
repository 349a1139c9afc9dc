import type { PlainRubric } from './fitRubric.ts';

const levels = (...described: readonly (readonly [points: number, descriptor: string])[]) =>
  described.map(([points, descriptor], n) => ({ title: String(n + 1), descriptor, points: points * 1000 }));

/** Rubrics to begin with, of use in any subject; they are fitted to the points of the item they are taken for. */
export const STARTER_RUBRICS: readonly PlainRubric[] = [
  {
    title: 'A written report',
    criteria: [
      {
        title: 'Observation',
        levels: levels(
          [0, 'nothing of one’s own is seen'],
          [3, 'the obvious is named'],
          [7, 'what matters is named, and where'],
          [10, 'what matters is named, where it is and what shows it'],
        ),
      },
      {
        title: 'Evidence',
        levels: levels(
          [0, 'claims alone'],
          [3, 'some claims with their grounds'],
          [7, 'every claim with its grounds'],
          [10, 'grounds, their limits and the doubt left are stated'],
        ),
      },
      {
        title: 'Conclusion',
        levels: levels(
          [0, 'none'],
          [3, 'stated, not drawn from the report'],
          [7, 'drawn from the report'],
          [10, 'drawn from it, with what would change it'],
        ),
      },
      {
        title: 'Writing',
        levels: levels(
          [0, 'not to be followed'],
          [2, 'to be followed with effort'],
          [4, 'clear'],
          [5, 'clear, short and kind to the reader'],
        ),
      },
    ],
  },
  {
    title: 'A reasoned essay',
    criteria: [
      {
        title: 'Question',
        levels: levels([0, 'not answered'], [4, 'answered in part'], [8, 'answered'], [10, 'answered, and its difficulty seen']),
      },
      {
        title: 'Argument',
        levels: levels(
          [0, 'assertions side by side'],
          [6, 'reasons, with steps missing'],
          [12, 'reasons that hold together'],
          [15, 'reasons that hold together and meet what speaks against them'],
        ),
      },
      {
        title: 'Sources',
        levels: levels([0, 'none'], [3, 'named'], [7, 'used where they bear on the question'], [10, 'used and weighed against each other']),
      },
      {
        title: 'Writing',
        levels: levels([0, 'not to be followed'], [2, 'to be followed with effort'], [4, 'clear'], [5, 'clear and exact']),
      },
    ],
  },
  {
    title: 'A spoken explanation',
    criteria: [
      {
        title: 'Understanding',
        levels: levels(
          [0, 'repeats words'],
          [4, 'explains parts'],
          [8, 'explains how the parts work together'],
          [10, 'explains it to someone who never saw it'],
        ),
      },
      {
        title: 'Order',
        levels: levels([0, 'none to be heard'], [3, 'found again now and then'], [5, 'each thing prepares the next']),
      },
      {
        title: 'Questions',
        levels: levels([0, 'not met'], [3, 'met with what was said before'], [5, 'met with something new, or an honest “I do not know”']),
      },
    ],
  },
  {
    title: 'A piece of practical work',
    criteria: [
      {
        title: 'Safety and care',
        levels: levels(
          [0, 'people or the piece put at risk'],
          [4, 'safe when reminded'],
          [8, 'safe'],
          [10, 'safe, and leaves the place better'],
        ),
      },
      {
        title: 'Method',
        levels: levels(
          [0, 'without plan'],
          [4, 'a plan, not kept'],
          [8, 'a plan, kept'],
          [10, 'a plan, kept or changed for a good reason'],
        ),
      },
      {
        title: 'Result',
        levels: levels(
          [0, 'does not work'],
          [4, 'works in part'],
          [8, 'works within the limits'],
          [10, 'works within the limits and is finished cleanly'],
        ),
      },
      { title: 'Record', levels: levels([0, 'none'], [2, 'gaps'], [4, 'another could follow it'], [5, 'another could repeat it']) },
    ],
  },
];
