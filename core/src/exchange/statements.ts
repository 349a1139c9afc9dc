import type { ItemKind } from '../items/kinds.ts';

/** One thing that was recorded of a student, as it is told to a learning record store. */
export type Recorded =
  | {
      readonly what: 'visited';
      readonly seconds: number;
      readonly times: number;
      readonly longestSeconds: number;
      readonly doing: 'reading' | 'writing' | 'talking';
    }
  | { readonly what: 'handed in'; readonly number: number }
  | { readonly what: 'took'; readonly seconds: number; readonly score: number | null; readonly possible: number; readonly number: number }
  | { readonly what: 'posted' };

export interface RecordedEvent {
  /** Stays the same each time: a store that has it already keeps one. */
  readonly id: string;
  readonly at: string;
  readonly person: { readonly id: string; readonly name: string };
  readonly item: { readonly id: string; readonly title: string; readonly kind: ItemKind };
  readonly recorded: Recorded;
}
export interface StatementCourse {
  /** Where this school is reached; what is told of names it. */
  readonly home: string;
  readonly id: string;
  readonly title: string;
  readonly language: string;
}

const VERBS = {
  visited: ['http://adlnet.gov/expapi/verbs/experienced', 'experienced'],
  'handed in': ['http://activitystrea.ms/schema/1.0/submit', 'submitted'],
  took: ['http://adlnet.gov/expapi/verbs/completed', 'completed'],
  posted: ['http://adlnet.gov/expapi/verbs/commented', 'commented'],
} as const satisfies { readonly [what in Recorded['what']]: readonly [id: string, word: string] };

const TYPES: { readonly [kind in ItemKind]: string } = {
  page: 'http://activitystrea.ms/schema/1.0/page',
  assignment: 'http://id.tincanapi.com/activitytype/school-assignment',
  quiz: 'http://adlnet.gov/expapi/activities/assessment',
  file: 'http://adlnet.gov/expapi/activities/file',
  link: 'http://adlnet.gov/expapi/activities/link',
  discussion: 'http://id.tincanapi.com/activitytype/discussion',
  activity: 'http://adlnet.gov/expapi/activities/performance',
};
const COURSE_TYPE = 'http://adlnet.gov/expapi/activities/course';

/**
 * A span of whole seconds as ISO 8601 writes it, in hours, minutes and seconds.
 * Worked example: 3725 is `PT1H2M5S`, 0 is `PT0S`.
 */
export function isoDuration(seconds: number): string {
  const [hours, minutes, rest] = [Math.floor(seconds / 3600), Math.floor((seconds % 3600) / 60), seconds % 60];
  const parts = [hours > 0 ? `${hours}H` : '', minutes > 0 ? `${minutes}M` : '', rest > 0 || seconds === 0 ? `${rest}S` : ''];
  return `PT${parts.join('')}`;
}

type Json = { readonly [name: string]: unknown };
function resultOf(recorded: Recorded, extension: (name: string) => string): Json | null {
  switch (recorded.what) {
    case 'visited':
      return {
        duration: isoDuration(recorded.seconds),
        extensions: {
          [extension('visits')]: recorded.times,
          [extension('longest')]: isoDuration(recorded.longestSeconds),
          [extension('doing')]: recorded.doing,
        },
      };
    case 'handed in':
      return { completion: true, extensions: { [extension('attempt')]: recorded.number } };
    case 'took': {
      const { score, possible } = recorded;
      // A scaled score lies between −1 and 1 by the specification; one above the maximum is told raw alone.
      const isScaled = score !== null && possible > 0 && score <= possible;
      return {
        completion: true,
        duration: isoDuration(recorded.seconds),
        ...(score === null
          ? {}
          : {
              score: {
                raw: score / 1000,
                ...(isScaled ? { min: 0, max: possible / 1000, scaled: Math.round((score / possible) * 10_000) / 10_000 } : {}),
              },
            }),
        extensions: { [extension('attempt')]: recorded.number },
      };
    }
    case 'posted':
      return null;
  }
}

/**
 * What was recorded as a statement of the Experience API, version 1.0.3: actor by an account of this school, verb and type of activity from the public
 * registries, what these have no name for as extensions under the address of this school. Points in thousandths.
 * Source: Experience API 1.0.3, parts two and three.
 * Worked example: a visit of 90 seconds is `experienced` with the duration `PT1M30S`.
 */
export function statementOf(event: RecordedEvent, course: StatementCourse): Json {
  const [verb, word] = VERBS[event.recorded.what];
  const place = `${course.home}/courses/${course.id}`;
  const result = resultOf(event.recorded, (name) => `${course.home}/xapi/extensions/${name}`);
  return {
    id: event.id,
    version: '1.0.3',
    timestamp: event.at,
    actor: { objectType: 'Agent', name: event.person.name, account: { homePage: course.home, name: event.person.id } },
    verb: { id: verb, display: { en: word } },
    object: {
      objectType: 'Activity',
      id: `${place}/items/${event.item.id}`,
      definition: { name: { [course.language]: event.item.title }, type: TYPES[event.item.kind] },
    },
    ...(result === null ? {} : { result }),
    context: {
      platform: 'Rosemary',
      language: course.language,
      contextActivities: {
        parent: [{ objectType: 'Activity', id: place, definition: { name: { [course.language]: course.title }, type: COURSE_TYPE } }],
      },
    },
  };
}
