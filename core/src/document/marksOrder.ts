/** The marks of a text in the order in which the one schema sorts them; code stands alone. */
export const MARK_ORDER = ['link', 'bold', 'code', 'italic', 'strike', 'underline'] as const;
export type MarkName = (typeof MARK_ORDER)[number];
