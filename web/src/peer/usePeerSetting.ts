import * as api from '@rosemary/api/endpoints';
import type { PeerChange, PeerSetting } from '@rosemary/api';
import { plusDays, savedWords } from '@rosemary/core';
import { ref, shallowRef, type Ref } from 'vue';
import { call, takeBack } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { makeSerial } from '../platform/serial.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';

type Base = Readonly<Ref<{ readonly courseId: string; readonly itemId: string }>>;
/** A week for the reviews, and three days until the results, where nothing else is said. */
const [DAYS_TO_REVIEW, DAYS_TO_RESULTS] = [7, 10];

/** How the peer review of an item is set: read, and saved choice by choice; what was out moves only once its ripple is seen. */
export function usePeerSetting(base: Base) {
  const course = useCourse();
  const notices = useNotices();
  const found = shallowRef<PeerSetting | null>(null);
  const fault = ref('');
  const words = ref('');
  const serial = makeSerial();
  async function load(): Promise<void> {
    try {
      found.value = await call(api.getPeerSetting, base.value);
      fault.value = '';
    } catch (error) {
      fault.value = error instanceof HttpProblem ? error.message : 'It could not be read.';
    }
  }
  /** Saves a change; gives whether it was kept. */
  async function set(change: Partial<PeerChange>): Promise<boolean> {
    fault.value = '';
    try {
      return await serial(async () => {
        const now = found.value;
        if (now === null) return false;
        const saved = await call(api.changePeerSetting, base.value, { ...now.setting, ...change }, `Reviews of “${now.item.title}”`);
        if (saved === null) return false;
        found.value = saved;
        words.value = savedWords(new Date());
        return true;
      });
    } catch (error) {
      fault.value = error instanceof HttpProblem ? error.message : 'Not saved.';
      if (error instanceof HttpProblem && error.code === 'conflict') await load();
      return false;
    }
  }
  /** Turned on for the first time it begins with dates that follow the works’ due date. */
  async function turn(isOn: boolean): Promise<void> {
    const before = found.value;
    if (before === null) return;
    const due = before.item.dueAt === null ? null : Date.parse(before.item.dueAt);
    const after = (days: number): string | null => (due === null ? null : new Date(plusDays(due, days, course.zone)).toISOString());
    const first = { reviewsDueAt: after(DAYS_TO_REVIEW), resultsAt: after(DAYS_TO_RESULTS) };
    if (!(await set(before.setting.version === 0 ? { isOn, ...first } : { isOn }))) return;
    notices.say(isOn ? 'Students review each other’s works.' : 'Nobody else reads the works. What was set is kept.', async () => {
      const now = found.value;
      if (now !== null) found.value = await takeBack(api.changePeerSetting, base.value, { ...now.setting, isOn: !isOn });
    });
  }
  return { found, fault, words, load, set, turn };
}
