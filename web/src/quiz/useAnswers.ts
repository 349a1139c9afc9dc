import { device } from '../platform/kept.ts';
import { useEventListener } from '@vueuse/core';
import * as api from '@rosemary/api/endpoints';
import type { PathOf } from '@rosemary/api/endpoints';
import type { AnswerSave, GivenAnswer, HeldView, Taking } from '@rosemary/api';
import { del, get as read, keys, set } from 'idb-keyval';
import { computed, onBeforeUnmount, reactive, ref } from 'vue';
import { call } from '../platform/call.ts';
import { HttpProblem, TAB } from '../platform/http.ts';
import { savedWords } from '@rosemary/core';

interface Pending extends AnswerSave {
  readonly questionId: string;
}
interface Own {
  answer: GivenAnswer | null;
  isFlagged: boolean;
  version: number;
}
export interface TheirAnswer extends HeldView {
  readonly mine: GivenAnswer | null;
}

const NEAR = 'rosemary answers ';
const TYPING = 400;
const RETRY = 2500;

/**
 * The answers of one attempt. Each goes into the browser's own store at once and stays there until the server has committed it; saves go
 * out one at a time, again and again until they arrive. A reload, a crash, a lost line or a server that starts anew lose nothing.
 */
export function useAnswers(base: () => PathOf<typeof api.getTaking>, attemptId: () => string) {
  const answers = reactive<Record<string, Own>>({});
  const waiting = reactive(new Map<string, Pending>());
  const conflicts = reactive(new Map<string, TheirAnswer>());
  const refused = reactive(new Map<string, string>());
  const late = reactive(new Set<string>());
  const savedAt = ref<string | null>(null);
  const isAway = ref(false);
  let turn = 0;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let running: Promise<void> | null = null;
  /** Seconds a question was in view since its last save. */
  let viewed: { id: string; at: number } | null = null;
  const seconds = new Map<string, number>();

  const near = (): string => `${NEAR}${attemptId()} ${TAB}`;
  function keep(): void {
    const text = JSON.stringify([...waiting.values()]);
    try {
      if (waiting.size === 0) device.forget(near());
      else device.keep(near(), text);
    } catch {
      device.forget(near());
    }
    void (waiting.size === 0 ? del(near()) : set(near(), JSON.parse(text)));
  }
  /** What was not acknowledged when this page, or another of this browser, was left. */
  async function findKept(): Promise<Pending[]> {
    const mine = `${NEAR}${attemptId()} `;
    const found = new Map<string, Pending[]>();
    for (const key of await keys<string>()) if (String(key).startsWith(mine)) found.set(String(key), (await read<Pending[]>(key)) ?? []);
    for (const key of device.names(mine)) found.set(key, JSON.parse(device.read(key) ?? '[]') as Pending[]);
    for (const key of found.keys())
      if (key !== near()) {
        device.forget(key);
        void del(key);
      }
    return [...found.values()].flat().sort((a, b) => a.turn - b.turn);
  }

  async function begin(taking: Taking): Promise<void> {
    for (const question of taking.sections.flatMap((s) => s.questions)) {
      const held = taking.answers[question.id];
      answers[question.id] = { answer: held?.answer ?? null, isFlagged: held?.isFlagged ?? false, version: held?.version ?? 0 };
    }
    const last = Object.values(taking.answers)
      .map((a) => a.savedAt)
      .sort()
      .at(-1);
    savedAt.value = last ?? null;
    for (const pending of await findKept()) {
      const own = answers[pending.questionId];
      if (own === undefined) continue;
      own.answer = pending.answer;
      own.isFlagged = pending.isFlagged;
      waiting.set(pending.questionId, pending);
    }
    keep();
    plan(0);
  }

  function plan(wait: number): void {
    clearTimeout(timer);
    timer = setTimeout(() => {
      void flush();
    }, wait);
  }

  async function sendOne(pending: Pending): Promise<boolean> {
    const { questionId, ...body } = pending;
    try {
      const kept = await call(api.saveAnswer, { ...base(), questionId }, body);
      isAway.value = false;
      if ('late' in kept) late.add(questionId);
      else {
        savedAt.value = kept.savedAt;
        const own = answers[questionId];
        if (own) own.version = kept.version;
      }
      refused.delete(questionId);
    } catch (error) {
      const problem = error instanceof HttpProblem ? error : null;
      if (problem === null || problem.isPassing || problem.problem.status >= 500) {
        isAway.value = true;
        return false;
      }
      isAway.value = false;
      if (problem.code === 'conflict') conflicts.set(questionId, { ...(problem.problem.current as HeldView), mine: pending.answer });
      else refused.set(questionId, problem.message);
    }
    if (waiting.get(questionId) === pending) waiting.delete(questionId);
    keep();
    return true;
  }
  async function sendAll(): Promise<void> {
    for (;;) {
      const next = waiting.values().next().value;
      if (next === undefined) return;
      if (!(await sendOne(next))) {
        plan(RETRY);
        return;
      }
    }
  }
  /** Sends everything that waits; done when it arrived, or when nobody answers. */
  async function flush(): Promise<void> {
    clearTimeout(timer);
    if (running !== null) await running;
    if (waiting.size === 0) return;
    running = sendAll().finally(() => {
      running = null;
    });
    await running;
  }

  function count(): void {
    const now = performance.now();
    if (viewed !== null) seconds.set(viewed.id, (seconds.get(viewed.id) ?? 0) + (now - viewed.at) / 1000);
    if (viewed !== null) viewed = { id: viewed.id, at: now };
  }
  function view(questionId: string): void {
    count();
    viewed = { id: questionId, at: performance.now() };
  }

  function push(questionId: string, change: { answer?: GivenAnswer | null; isFlagged?: boolean }, wait: number): void {
    const own = answers[questionId];
    if (own === undefined) return;
    if (change.answer !== undefined) own.answer = change.answer;
    if (change.isFlagged !== undefined) own.isFlagged = change.isFlagged;
    count();
    turn += 1;
    const spent = Math.round(seconds.get(questionId) ?? 0);
    seconds.set(questionId, 0);
    const earlier = waiting.get(questionId);
    waiting.set(questionId, {
      questionId,
      answer: JSON.parse(JSON.stringify(own.answer)) as GivenAnswer | null,
      isFlagged: own.isFlagged,
      device: TAB,
      turn,
      seen: own.version,
      seconds: spent + (earlier?.device === TAB ? earlier.seconds : 0),
    });
    keep();
    plan(wait);
  }
  /** Of two versions one is chosen: theirs stands already, mine is sent again over it. */
  function settle(questionId: string, takesMine: boolean): void {
    const theirs = conflicts.get(questionId);
    const own = answers[questionId];
    if (theirs === undefined || own === undefined) return;
    conflicts.delete(questionId);
    own.version = theirs.version;
    if (takesMine) push(questionId, { answer: theirs.mine }, 0);
    else {
      own.answer = theirs.answer;
      own.isFlagged = theirs.isFlagged;
    }
  }

  const onLine = (): void => plan(0);
  useEventListener(window, 'online', onLine);
  onBeforeUnmount(() => {
    clearTimeout(timer);
  });
  const words = computed(() => {
    if (isAway.value && waiting.size > 0)
      return `No connection. ${waiting.size === 1 ? 'One answer is' : `${waiting.size} answers are`} kept here and sent when it returns.`;
    if (waiting.size > 0) return 'Saving…';
    return savedAt.value === null ? '' : savedWords(new Date(savedAt.value));
  });
  return {
    answers,
    waiting,
    conflicts,
    refused,
    late,
    words,
    isAway,
    begin,
    view,
    flush,
    settle,
    choose: (id: string, answer: GivenAnswer | null) => push(id, { answer }, 0),
    type: (id: string, answer: GivenAnswer | null) => push(id, { answer }, TYPING),
    flag: (id: string, isFlagged: boolean) => push(id, { isFlagged }, 0),
  };
}
