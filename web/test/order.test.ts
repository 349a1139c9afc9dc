/** @jest-environment ../scripts/jsdomForJest.mjs */
import type { PlanItem, QuizPart, QuizSection } from '@rosemary/api';
import { nextTick, ref } from 'vue';
import { useChoice } from '../src/plan/useChoice.ts';
import { pageSubject, usePageTitle } from '../src/platform/usePageTitle.ts';
import { useQuestionOrder } from '../src/quiz/useQuestionOrder.ts';
import { beginMounting, endMounting, inPage } from './mounting.ts';

beforeEach(beginMounting);
afterEach(endMounting);

describe('several lines of the Plan', () => {
  const items = ref(['a', 'b', 'c', 'd', 'e'].map((id) => ({ id }) as PlanItem));
  const chosen = (own: ReturnType<typeof useChoice>): string => own.chosen.value.map((i) => i.id).join('');
  afterEach(() => {
    items.value = ['a', 'b', 'c', 'd', 'e'].map((id) => ({ id }) as PlanItem);
  });

  it('are chosen one by one, and each no more by the same press', () => {
    const own = useChoice(items);
    own.toggle('d');
    own.toggle('b');
    expect(chosen(own)).toBe('bd');
    own.toggle('d');
    expect(chosen(own)).toBe('b');
  });

  it('are chosen from the last one touched to another, in either direction', () => {
    const own = useChoice(items);
    own.toggle('d');
    own.reach('b');
    expect(chosen(own)).toBe('bcd');
    own.clear();
    own.touch('a');
    own.reach('c');
    expect(chosen(own)).toBe('abc');
  });

  it('are one alone where nothing was touched before', () => {
    const own = useChoice(items);
    own.reach('c');
    expect(chosen(own)).toBe('c');
  });

  it('are all or none, and no more what stands there no more', () => {
    const own = useChoice(items);
    own.all();
    items.value = items.value.filter((i) => i.id !== 'c');
    expect(chosen(own)).toBe('abde');
    own.clear();
    expect(chosen(own)).toBe('');
  });
});

describe('the questions of a paper', () => {
  const part = (id: string): QuizPart => ({ id }) as QuizPart;
  const paper = (): QuizSection[] =>
    [
      { id: '1', parts: [part('a'), part('b')] },
      { id: '2', parts: [part('c')] },
    ] as unknown as QuizSection[];
  const open = () => {
    const saved: string[] = [];
    const own = useQuestionOrder(paper, (sections) => {
      saved.push(sections.map((s) => s.parts.map((p) => p.id).join('')).join('|'));
      return Promise.resolve();
    });
    return { own, saved };
  };
  const list = (section: number): HTMLElement => {
    const element = document.createElement('div');
    element.dataset.section = String(section);
    return element;
  };

  it('go a step up or down within their section', async () => {
    const { own, saved } = open();
    await own.move(part('b'), -1);
    await own.move(part('a'), 1);
    expect(saved).toEqual(['ba|c', 'ba|c']);
  });

  it('go over its edge into the next one, at its near end', async () => {
    const { own, saved } = open();
    await own.move(part('b'), 1);
    await own.move(part('c'), -1);
    expect(saved).toEqual(['a|bc', 'abc|']);
  });

  it('stay at both ends of the paper, and where they are not in it', async () => {
    const { own, saved } = open();
    await own.move(part('a'), -1);
    await own.move(part('c'), 1);
    await own.move(part('gone'), 1);
    expect(saved).toEqual([]);
  });

  it('are dropped where they were let go, in their section or another', async () => {
    const { own, saved } = open();
    await own.drop({ from: list(0), to: list(0), oldDraggableIndex: 0, newDraggableIndex: 1 });
    await own.drop({ from: list(0), to: list(1), oldDraggableIndex: 0, newDraggableIndex: 1 });
    expect(saved).toEqual(['ba|c', 'b|ca']);
  });

  it('are not saved again where they were let go as they stood, or nowhere', async () => {
    const { own, saved } = open();
    await own.drop({ from: list(0), to: list(0), oldDraggableIndex: 1, newDraggableIndex: 1 });
    await own.drop({ from: list(0), to: list(7), oldDraggableIndex: 1, newDraggableIndex: 0 });
    await own.drop({ from: list(0), to: list(1), newDraggableIndex: 0 });
    expect(saved).toEqual([]);
  });
});

describe('what a page is about', () => {
  it('names the tab as long as the page is open, and follows its title', async () => {
    const title = ref<string | null>('Condition report');
    await inPage(() => usePageTitle(() => title.value));
    expect(pageSubject().value?.title).toBe('Condition report');
    title.value = 'Condition report, again';
    await nextTick();
    expect(pageSubject().value?.title).toBe('Condition report, again');
    title.value = null;
    await nextTick();
    expect(pageSubject().value).toBeNull();
  });

  it('is what the page opened last says, until that one is gone', async () => {
    await inPage(() => usePageTitle(() => 'The first'));
    await inPage(() => usePageTitle(() => 'The second'));
    expect(pageSubject().value?.title).toBe('The second');
    endMounting();
    expect(pageSubject().value).toBeNull();
  });
});
