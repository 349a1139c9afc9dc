import { Fragment, type VNode } from 'vue';

/** One line of a list to choose from. */
export interface Choice {
  readonly title: string;
  readonly value: unknown;
  readonly isOff: boolean;
  /** Stands over the lines of its group and cannot be chosen. */
  readonly isHeading: boolean;
}

const wordsOf = (children: unknown): string => {
  if (typeof children === 'string') return children;
  if (!Array.isArray(children)) return '';
  return (children as unknown[]).map((child) => wordsOf(typeof child === 'string' ? child : (child as VNode).children)).join('');
};

/** The lines of a list, as they stand in a page: `<option :value>` and `<optgroup label>`, written out or repeated. */
export function readChoices(nodes: readonly VNode[] = []): readonly Choice[] {
  return nodes.flatMap((node): readonly Choice[] => {
    const inner = Array.isArray(node.children) ? (node.children as VNode[]) : [];
    if (node.type === Fragment) return readChoices(inner);
    const given = (node.props ?? {}) as Record<string, unknown>;
    if (node.type === 'optgroup') return [{ title: String(given.label), value: null, isOff: true, isHeading: true }, ...readChoices(inner)];
    if (node.type !== 'option') return [];
    const title = wordsOf(node.children).replace(/\s+/g, ' ').trim();
    return [
      {
        title,
        value: 'value' in given ? given.value : title,
        isOff: given.disabled !== undefined && given.disabled !== false,
        isHeading: false,
      },
    ];
  });
}
/** A value by which a line is found again: what stands in a page as text and what is held as a number are one. */
export const keyOf = (value: unknown): string => (value === null || value === undefined ? '' : String(value as string | number | boolean));
