import type { Random } from './random.ts';

export const STAFF = [
  { email: 'ines@tallowmere.example', givenName: 'Ines', familyName: 'Okafor-Lind', role: 'instructor' },
  { email: 'teodor@tallowmere.example', givenName: 'Teodor', familyName: 'Vasko', role: 'assistant' },
  { email: 'maribel@tallowmere.example', givenName: 'Maribel', familyName: 'Quennell', role: 'assistant' },
  { email: 'aurelio@tallowmere.example', givenName: 'Aurelio', familyName: 'Brandt', role: 'administrator' },
] as const;

export const DEMO_PASSWORD = 'tallowmere-bench';

/** How someone studies. Ability is on a standard normal scale; the rest bends what follows from it. */
export type Habit = 'steady' | 'silent since week 5' | 'falling' | 'far ahead' | 'late' | 'withdrawn';
export interface DemoStudent {
  readonly givenName: string;
  readonly familyName: string;
  readonly email: string;
  readonly ability: number;
  readonly habit: Habit;
}

const NAMED: readonly (readonly [string, string, number, Habit])[] = [
  ['Wilhelmina', 'Adeyemi-Sørli', 0.4, 'steady'],
  ['Tunde', 'Abiola', 0.9, 'steady'],
  ['Coll', 'Brannagh', -0.5, 'late'],
  ['Rosa', 'Castellane', 1.4, 'steady'],
  ['Piet', 'Dvorsky', 0.3, 'falling'],
  ['Haruki', 'Eguchi', 0.8, 'steady'],
  ['Cass', 'Fennimore', 1.7, 'steady'],
  ['Ondine', 'Garrick', 0.1, 'steady'],
  ['Inez', 'Halloran', -0.6, 'steady'],
  ['Chidi', 'Ibekwe', 0.5, 'steady'],
  ['Marisol', 'Jurado', -0.2, 'late'],
  ['Rowan', 'Kestrel', 1.1, 'steady'],
  ['Aino', 'Lindqvist', 2.1, 'far ahead'],
  ['Fidel', 'Montoya', -0.9, 'silent since week 5'],
  ['Wiremu', 'Ngata', 0.2, 'steady'],
  ['Sade', 'Oyelaran', 0.7, 'steady'],
  ['Una', 'Petrov-Hale', 0, 'steady'],
  ['Beno', 'Quist', -0.3, 'steady'],
  ['Lucan', 'Rask', -0.1, 'withdrawn'],
];

const GIVEN = [
  'Anselm',
  'Briony',
  'Cato',
  'Delphine',
  'Emeka',
  'Farida',
  'Goran',
  'Hester',
  'Ilse',
  'Joaquim',
  'Kaja',
  'Leocadia',
  'Mirek',
  'Nadège',
  'Osei',
  'Perpetua',
  'Quillon',
  'Rhiannon',
  'Salvador',
  'Tamsin',
  'Ulrike',
  'Vasilis',
  'Wren',
  'Xiadani',
  'Yusra',
  'Zoltan',
  'Amaru',
  'Bettina',
  'Corin',
  'Dagny',
];
const FAMILY = [
  'Ashgrove',
  'Bellweather',
  'Czerny',
  'Dunmore',
  'Eastlake',
  'Faraday-Nkosi',
  'Grebe',
  'Holloway',
  'Isakov',
  'Jarrow',
  'Kilbride',
  'Lovelock',
  'Mbeki-Strand',
  'Northgate',
  'Orlov',
  'Penhaligon',
  'Quarrie',
  'Rosing',
  'Stavrou',
  'Thornbury',
  'Umber',
  'Valdés',
  'Whitlock',
  'Yarrow',
  'Zelenka',
  'Achterberg',
  'Boateng',
  'Carrow',
  'Dimitriou',
  'Elmhirst',
];

function addressOf(given: string, family: string, n: number): string {
  // Letters that are no letter with an accent are written out, as a school's office would.
  const written = `${given}.${family}`.replace(/[øØ]/g, 'o').replace(/[łŁ]/g, 'l').replace(/ß/g, 'ss').replace(/[æÆ]/g, 'ae');
  const plain = written
    .normalize('NFD')
    .replace(/[^A-Za-z.-]/g, '')
    .toLowerCase();
  return `${plain}${n === 0 ? '' : n}@students.tallowmere.example`;
}

/** Students with invented, varied names; the first nineteen are the ones everybody in the demo knows. */
export function inventStudents(random: Random, count: number, withNamed: boolean): DemoStudent[] {
  const known = withNamed
    ? NAMED.slice(0, count).map(([givenName, familyName, ability, habit]): DemoStudent => ({
        givenName,
        familyName,
        ability,
        habit,
        email: addressOf(givenName, familyName, 0),
      }))
    : [];
  const taken = new Set(known.map((s) => s.email));
  while (known.length < count) {
    const givenName = random.pick(GIVEN);
    const familyName = random.pick(FAMILY);
    const email = addressOf(givenName, familyName, withNamed ? 0 : 2 + Math.floor(known.length / 900));
    if (taken.has(email) && known.length < 800) continue;
    const unique = taken.has(email) ? addressOf(givenName, familyName, known.length) : email;
    taken.add(unique);
    known.push({
      givenName,
      familyName,
      email: unique,
      ability: random.normal() * 0.8 + 0.3,
      habit: random.chance(0.06) ? 'late' : 'steady',
    });
  }
  return known;
}
