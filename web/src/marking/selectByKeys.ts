const STEPS: Readonly<Record<string, readonly [direction: 'forward' | 'backward', by: 'word' | 'line']>> = {
  ArrowRight: ['forward', 'word'],
  ArrowLeft: ['backward', 'word'],
  ArrowDown: ['forward', 'line'],
  ArrowUp: ['backward', 'line'],
};

/** The first words of an area that can be seen, or the first of all. */
function firstWords(area: HTMLElement): Text | null {
  const walker = document.createTreeWalker(area, NodeFilter.SHOW_TEXT);
  let first: Text | null = null;
  for (let node = walker.nextNode(); node !== null; node = walker.nextNode()) {
    if ((node.textContent ?? '').trim() === '') continue;
    first ??= node as Text;
    if ((node.parentElement?.getBoundingClientRect().bottom ?? 0) > 0) return node as Text;
  }
  return first;
}

/**
 * Selects words of a text that is only read, by Shift with the arrows: a word or a line at a time; with Alt as well, the place moves on
 * and nothing is selected. Whether the key was such a one.
 */
export function selectByKeys(event: KeyboardEvent, area: HTMLElement | null): boolean {
  const step = STEPS[event.key];
  const selection = document.getSelection();
  if (!event.shiftKey || event.ctrlKey || event.metaKey || step === undefined || area === null || selection === null) return false;
  if (selection.focusNode === null || !area.contains(selection.focusNode)) {
    const words = firstWords(area);
    if (words === null) return false;
    selection.collapse(words, words.data.length - words.data.trimStart().length);
  }
  const before = [selection.focusNode, selection.focusOffset] as const;
  selection.modify(event.altKey ? 'move' : 'extend', ...step);
  // What lies outside is not the work.
  const [node] = before;
  if (selection.focusNode !== null && !area.contains(selection.focusNode) && node !== null)
    if (event.altKey) selection.collapse(...before);
    else selection.extend(node, before[1]);
  (selection.focusNode?.parentElement ?? area).scrollIntoView({ block: 'nearest' });
  return true;
}
