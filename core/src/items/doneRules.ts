export const DONE_RULES = ['opened', 'ticked', 'handed in', 'marked', 'score', 'never'] as const;
export type DoneRule = (typeof DONE_RULES)[number];
