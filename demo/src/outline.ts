export type Take = 'text' | 'pdf' | 'both';
export interface DemoItem {
  readonly kind: 'page' | 'assignment' | 'activity' | 'quiz';
  readonly title: string;
  readonly minutes: number;
  readonly points?: number;
  readonly category?: string;
  readonly marking?: number;
  /** Week, weekday (1 Monday) and time it is due. */
  readonly due?: readonly [number, number, string];
  readonly opens?: readonly [number, number, string];
  readonly take?: Take;
  readonly isDraft?: boolean;
  readonly rubric?: boolean;
  /** Marked by two, each on their own and without names. */
  readonly isPaired?: boolean;
  /** A sentence more in the instructions; {due} is the due day. */
  readonly says?: string;
}
export interface DemoUnit {
  readonly title: string;
  readonly items: readonly DemoItem[];
}

const page = (title: string, minutes: number, more: Partial<DemoItem> = {}): DemoItem => ({ kind: 'page', title, minutes, ...more });
const work = (
  title: string,
  category: string,
  points: number,
  due: DemoItem['due'],
  minutes: number,
  marking: number,
  take: Take,
  more: Partial<DemoItem> = {},
): DemoItem => ({ kind: 'assignment', title, category, points, ...(due === undefined ? {} : { due }), minutes, marking, take, ...more });
const activity = (title: string, points: number, due: DemoItem['due'], more: Partial<DemoItem> = {}): DemoItem => ({
  kind: 'activity',
  title,
  category: 'Bench work',
  points,
  ...(due === undefined ? {} : { due }),
  minutes: 40,
  ...more,
});

export const FOUNDATIONS: readonly DemoUnit[] = [
  {
    title: 'Tools and the bench',
    items: [
      page('The bench and its light', 25),
      page('Tweezers, screwdrivers, loupes', 35),
      work('Dress a screwdriver blade', 'Exercises', 20, [1, 5, '18:00'], 60, 3, 'text'),
      work('Inventory of your bench', 'Bench work', 40, [2, 5, '18:00'], 90, 5, 'text'),
      activity('Bench inspection', 20, [2, 4, '12:00']),
    ],
  },
  {
    title: 'The going train',
    items: [
      page('Wheels, pinions and leaves', 40),
      page('Counting a train', 35),
      work('Gear-train worksheet', 'Bench work', 40, [3, 5, '18:00'], 90, 5, 'pdf'),
      work('Gear ratios', 'Exercises', 20, [3, 7, '23:59'], 25, 3, 'text'),
      work('Strip-down log', 'Bench work', 60, [4, 5, '18:00'], 180, 7, 'both'),
    ],
  },
  {
    title: 'The escapement',
    items: [
      page('Lock, drop and draw', 35),
      work('Parts of the lever escapement', 'Exercises', 20, [5, 7, '23:59'], 20, 3, 'text'),
      work('Escapement drawing', 'Bench work', 60, [6, 5, '18:00'], 150, 6, 'pdf'),
      page('Is end-shake measured dial up?', 20),
      work('Mid-term paper', 'Papers', 100, [7, 5, '18:00'], 300, 12, 'text'),
      work('Condition report', 'Bench work', 60, [9, 2, '18:00'], 180, 8, 'text', { rubric: true, opens: [7, 1, '08:00'] }),
    ],
  },
  {
    title: 'Balance and timing',
    items: [
      page('What a hairspring does', 40, { opens: [9, 1, '08:00'] }),
      page('Reading a timing trace', 45, { opens: [10, 1, '08:00'] }),
      { kind: 'quiz', title: 'Beat and amplitude', category: 'Exercises', points: 0, due: [9, 7, '23:59'], minutes: 25, isDraft: true },
      work('Timing in six positions', 'Bench work', 80, [11, 5, '18:00'], 180, 8, 'both', { opens: [10, 1, '08:00'] }),
      work('Positions and rates', 'Exercises', 20, [11, 7, '23:59'], 25, 3, 'text', { isDraft: true }),
    ],
  },
  {
    title: 'Cleaning and oil',
    items: [
      page('Solvents and their order', 30, { isDraft: true }),
      page('Where oil belongs', 35, { isDraft: true }),
      work('Cleaning plan', 'Bench work', 40, [12, 5, '18:00'], 90, 5, 'text', { isDraft: true }),
      work('Oil chart', 'Exercises', 20, [13, 7, '23:59'], 25, 3, 'text', { isDraft: true }),
      activity('Oiling practical', 40, [13, 4, '12:00'], { isDraft: true }),
    ],
  },
  {
    title: 'Restoring with care',
    items: [
      page('Do as little as you must', 30, { isDraft: true }),
      page('Writing for the client', 30, { isDraft: true }),
      work('Group restoration report', 'Bench work', 100, [14, 5, '18:00'], 360, 10, 'both', { isDraft: true }),
      activity('Spoken explanation', 40, [15, 4, '12:00'], { isDraft: true }),
      work('Final paper', 'Papers', 100, [15, 5, '18:00'], 300, 12, 'text', { isDraft: true }),
    ],
  },
];

export const TIMING: readonly DemoUnit[] = [
  {
    title: 'Families of escapement',
    items: [
      page('Recoil and dead beat', 40),
      work('Compare two escapements', 'Bench work', 40, [4, 4, '18:00'], 120, 6, 'text'),
      page('The detent', 35),
    ],
  },
  {
    title: 'Rates and errors',
    items: [
      page('Isochronism', 45),
      work('A rate in five days', 'Exercises', 20, [7, 3, '23:59'], 60, 4, 'text'),
      work('Error budget', 'Bench work', 60, [9, 1, '18:00'], 150, 7, 'text', { rubric: true, isPaired: true }),
      work('Adjusting plan', 'Papers', 100, [12, 4, '18:00'], 240, 10, 'text', { isDraft: true }),
    ],
  },
];

export const SPRING: readonly DemoUnit[] = [
  {
    title: 'Tools and the bench',
    items: [
      page('The bench and its light', 25),
      work('Dress a screwdriver blade', 'Exercises', 20, [2, 5, '18:00'], 60, 3, 'text'),
      work('Strip-down log', 'Bench work', 60, [5, 5, '18:00'], 180, 7, 'text', {
        says: 'Bring the movement to the bench on {due}, as every Spring.',
      }),
    ],
  },
  {
    title: 'The escapement',
    items: [
      page('Lock, drop and draw', 35),
      work('Condition report', 'Bench work', 60, [9, 2, '18:00'], 180, 8, 'text'),
      work('Final paper', 'Papers', 100, [14, 5, '18:00'], 300, 12, 'text'),
    ],
  },
];

export const RUBRIC = [
  [
    'Observation',
    [
      [5, 'names few faults'],
      [10, 'names the main fault'],
      [15, 'names each fault and where it is'],
      [20, 'names each fault, where it is and what shows it'],
    ],
  ],
  [
    'Method',
    [
      [4, 'order not given'],
      [8, 'order given, reasons missing'],
      [12, 'safe order, some reasons'],
      [15, 'safe order, reasons given'],
    ],
  ],
  [
    'Evidence',
    [
      [4, 'no measures'],
      [8, 'some measures, limits missing'],
      [12, 'measures with limits'],
      [15, 'measures, limits and doubt stated'],
    ],
  ],
  [
    'Writing',
    [
      [2, 'hard to follow'],
      [5, 'clear in parts'],
      [8, 'clear'],
      [10, 'clear, short and kind to the client'],
    ],
  ],
] as const;
