export const DONE_RULES = [
  'opened',
  'ticked',
  'handed in',
  'marked',
  'score',
  'reviewed',
  'handed in and reviewed',
  'handed in or reviewed',
  'never',
] as const;
export type DoneRule = (typeof DONE_RULES)[number];
