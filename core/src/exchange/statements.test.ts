import { ITEM_KINDS } from '../items/kinds.ts';
import { isoDuration, type Recorded, statementOf, type RecordedEvent } from './statements.ts';

const course = { home: 'https://school.example', id: 'course', title: 'Watchmaking', language: 'en' };
const event = (recorded: Recorded, kind: RecordedEvent['item']['kind'] = 'quiz'): RecordedEvent => ({
  id: '00000000-0000-4000-8000-000000000000',
  at: '2026-11-18T10:00:00.000Z',
  person: { id: 'person', name: 'Coll Brannagh' },
  item: { id: 'item', title: 'Trains and locks', kind },
  recorded,
});

describe('a statement of what was recorded', () => {
  it('has an actor by an account, a verb, an activity in its course, and the version', () => {
    expect(statementOf(event({ what: 'posted' }, 'discussion'), course)).toEqual({
      id: '00000000-0000-4000-8000-000000000000',
      version: '1.0.3',
      timestamp: '2026-11-18T10:00:00.000Z',
      actor: { objectType: 'Agent', name: 'Coll Brannagh', account: { homePage: 'https://school.example', name: 'person' } },
      verb: { id: 'http://adlnet.gov/expapi/verbs/commented', display: { en: 'commented' } },
      object: {
        objectType: 'Activity',
        id: 'https://school.example/courses/course/items/item',
        definition: { name: { en: 'Trains and locks' }, type: 'http://id.tincanapi.com/activitytype/discussion' },
      },
      context: {
        platform: 'Rosemary',
        language: 'en',
        contextActivities: {
          parent: [
            {
              objectType: 'Activity',
              id: 'https://school.example/courses/course',
              definition: { name: { en: 'Watchmaking' }, type: 'http://adlnet.gov/expapi/activities/course' },
            },
          ],
        },
      },
    });
  });
  it('of a visit says how long, how often and what', () => {
    const { result } = statementOf(event({ what: 'visited', seconds: 90, times: 2, longestSeconds: 60, doing: 'reading' }, 'page'), course);
    expect(result).toEqual({
      duration: 'PT1M30S',
      extensions: {
        'https://school.example/xapi/extensions/visits': 2,
        'https://school.example/xapi/extensions/longest': 'PT1M',
        'https://school.example/xapi/extensions/doing': 'reading',
      },
    });
  });
  it('of an attempt has a score between 0 and its maximum, one above it raw alone, and none that is not there', () => {
    const took = (score: number | null, possible = 20_000): Recorded => ({ what: 'took', seconds: 0, score, possible, number: 1 });
    const scoreOf = (recorded: Recorded): unknown => (statementOf(event(recorded), course).result as { score?: unknown }).score;
    expect(scoreOf(took(15_000))).toEqual({ raw: 15, min: 0, max: 20, scaled: 0.75 });
    expect(scoreOf(took(21_000))).toEqual({ raw: 21 });
    expect(scoreOf(took(0, 0))).toEqual({ raw: 0 });
    expect(scoreOf(took(null))).toBeUndefined();
  });
  it.each(ITEM_KINDS)('knows what a %s is', (kind) => {
    const { object } = statementOf(event({ what: 'handed in', number: 1 }, kind), course) as { object: { definition: { type: string } } };
    expect(object.definition.type).toMatch(/^http:\/\//);
  });
  it.each([
    [0, 'PT0S'],
    [59, 'PT59S'],
    [60, 'PT1M'],
    [3725, 'PT1H2M5S'],
    [86_400, 'PT24H'],
  ])('writes %i seconds as %s', (seconds, text) => {
    expect(isoDuration(seconds)).toBe(text);
  });
});
