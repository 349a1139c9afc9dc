import { useChosen } from '../platform/kept.ts';
import * as api from '@rosemary/api/endpoints';
import type { MarkView, Stack, StackEntry, Work } from '@rosemary/api';
import { STACK_STATES } from '@rosemary/core';
import { computed, ref, shallowRef, type Ref } from 'vue';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useSession } from '../stores/sessionStore.ts';

export const ORDERS = {
  oldest: 'oldest first',
  name: 'by name',
  section: 'by section',
  state: 'by state',
  group: 'by group',
  marker: 'by marker',
  match: 'by what stands elsewhere',
  score: 'by score',
  late: 'latest first',
  length: 'by length',
} as const;
export type Order = keyof typeof ORDERS;

const score = (entry: StackEntry): number => (entry.scoreText === null ? -1 : Number.parseFloat(entry.scoreText));
const at = (entry: StackEntry): number => (entry.handedInAt === null ? Infinity : Date.parse(entry.handedInAt));
const name = (a: StackEntry, b: StackEntry): number => a.familyName.localeCompare(b.familyName) || a.givenName.localeCompare(b.givenName);
/** What still asks for somebody’s work. */
export const WAITING: ReadonlySet<string> = new Set(['waits', 'in hand', 'to agree']);
/** Whom a work is of, as it stands in its head. */
export const nameOf = (e: StackEntry): string => (e.members.length > 0 && e.group !== '' ? e.group : `${e.givenName} ${e.familyName}`);
/** States by what they still ask for, the most pressing first. */
export const RANK = [
  'in hand',
  'to agree',
  'waits',
  'finished',
  'released',
  'revision asked',
  'unfinished',
  'missing',
  'draft',
  'not begun',
  'exempt',
];
const waits = (entry: StackEntry): number => (WAITING.has(entry.state) ? 0 : 1);
export const markers = (e: StackEntry): string => (e.sharedTo.length > 0 ? e.sharedTo.join(', ') : (e.marker ?? ''));
const COMPARE: { readonly [order in Order]: (a: StackEntry, b: StackEntry) => number } = {
  oldest: (a, b) => waits(a) - waits(b) || at(a) - at(b) || name(a, b),
  name,
  section: (a, b) => a.section.localeCompare(b.section) || name(a, b),
  state: (a, b) => RANK.indexOf(a.state) - RANK.indexOf(b.state) || name(a, b),
  score: (a, b) => score(b) - score(a) || name(a, b),
  group: (a, b) => a.group.localeCompare(b.group) || name(a, b),
  marker: (a, b) => markers(a).localeCompare(markers(b)) || name(a, b),
  match: (a, b) => (b.matchPercent ?? -1) - (a.matchPercent ?? -1) || name(a, b),
  late: (a, b) => (b.handedInAt === null ? 0 : at(b)) - (a.handedInAt === null ? 0 : at(a)) || name(a, b),
  length: (a, b) => b.words - a.words || name(a, b),
};

/** What the stack can be narrowed to by one word. */
export const FILTERS = [...STACK_STATES, 'late', 'with new words', 'mine'] as const;
type Filter = (typeof FILTERS)[number];
/** Whether a work is of a state, late, with words not read, or `me` marks it. */
export function isOf(e: StackEntry, filter: Filter, me: string): boolean {
  if (filter === 'late') return e.lateText !== null;
  if (filter === 'with new words') return e.hasNewWords;
  return filter === 'mine' ? e.sharedTo.includes(me) : e.state === filter;
}
/** Whether a work is meant by what was typed or chosen: one of the words above, or part of a name, group, section or marker. */
export function isMeant(e: StackEntry, text: string, me: string): boolean {
  if ((FILTERS as readonly string[]).includes(text)) return isOf(e, text as Filter, me);
  return (
    text === '' ||
    [`${e.givenName} ${e.familyName}`, ...e.members, e.group, e.section, markers(e)].some((w) =>
      w.toLowerCase().includes(text.toLowerCase()),
    )
  );
}

/** The stack of one item: order, filter, the open work, and the next one loaded before it is asked for. */
export function useStack(courseId: Ref<string>, itemId: Ref<string>) {
  const course = useCourse();
  const session = useSession();
  const me = computed(() => session.myName);
  const stack = ref<Stack | null>(null);
  const work = shallowRef<Work | null>(null);
  const fault = ref<unknown>(null);
  const order = useChosen<Order>(() => 'stack order', 'oldest');
  const filter = ref('');
  // The place in the list is kept while one marks: the order is taken when it is chosen, not after each mark.
  const places = ref<readonly string[]>([]);
  const ahead = new Map<string, Promise<Work>>();
  const base = computed(() => ({ courseId: courseId.value, itemId: itemId.value }));

  function sort(): void {
    places.value = [...(stack.value?.entries ?? [])].sort(COMPARE[order.value]).map((e) => e.enrolmentId);
  }
  const orderModel = computed({
    get: () => order.value,
    set: (next: Order) => {
      order.value = next;
      sort();
    },
  });
  const shown = computed(() => {
    const byId = new Map((stack.value?.entries ?? []).map((e) => [e.enrolmentId, e]));
    return places.value.flatMap((id) => {
      const e = byId.get(id);
      if (e === undefined || (course.sectionId !== null && e.sectionId !== course.sectionId && !e.isVeiled)) return [];
      if (!isMeant(e, filter.value, me.value)) return [];
      return [e];
    });
  });

  async function refresh(): Promise<void> {
    stack.value = await call(api.getStack, base.value);
  }
  async function load(): Promise<void> {
    try {
      fault.value = null;
      await refresh();
      sort();
    } catch (error) {
      fault.value = error;
    }
  }
  function fetchWork(id: string): Promise<Work> {
    const known = ahead.get(id);
    if (known !== undefined) return known;
    const coming = call(api.getWork, { ...base.value, enrolmentId: id });
    ahead.set(id, coming);
    coming.catch(() => ahead.delete(id));
    return coming;
  }
  function loadAhead(id: string): void {
    const n = shown.value.findIndex((e) => e.enrolmentId === id);
    for (const next of [shown.value[n + 1], shown.value[n - 1]]) if (next) void fetchWork(next.enrolmentId).catch(() => undefined);
  }
  async function open(id: string, isFresh = false): Promise<void> {
    if (isFresh) ahead.delete(id);
    try {
      fault.value = null;
      const next = await fetchWork(id);
      work.value = next;
      ahead.delete(id);
      loadAhead(id);
    } catch (error) {
      fault.value = error;
      work.value = null;
    }
  }
  function accept(next: Work): void {
    if (work.value?.entry.enrolmentId === next.entry.enrolmentId) work.value = next;
    ahead.delete(next.entry.enrolmentId);
  }
  /** What was saved is kept beside the work, so that coming back to it shows the same. */
  function setMark(enrolmentId: string, mark: MarkView): void {
    if (work.value?.entry.enrolmentId === enrolmentId) work.value = { ...work.value, mark };
    ahead.delete(enrolmentId);
    if (stack.value)
      stack.value = {
        ...stack.value,
        entries: stack.value.entries.map((e) =>
          e.enrolmentId === enrolmentId && (e.state === 'waits' || e.state === 'finished' || e.state === 'released')
            ? { ...e, state: mark.state === 'draft' ? 'in hand' : e.state }
            : e,
        ),
      };
  }
  return { stack, work, fault, order: orderModel, filter, shown, load, refresh, sort, open, accept, setMark };
}
