/** What a student did, as far as it is recorded, in the order in which it is told. */
export const DOINGS = ['reading', 'writing', 'answering', 'handing in', 'talking'] as const;
export type Doing = (typeof DOINGS)[number];
/** What somebody does who has an item open; the rest is known from attempts and works themselves. */
export type Visiting = Extract<Doing, 'reading' | 'writing' | 'talking'>;

/** What each means, for whoever reads of it. */
export const DOING_WORDS: { readonly [doing in Doing]: string } = {
  reading: 'an item was open and in sight',
  writing: 'a text was written in an assignment',
  answering: 'a quiz was being answered',
  'handing in': 'a work was handed in',
  talking: 'something was written in a discussion',
};
