import * as api from '@rosemary/api/endpoints';
import type { RemarkChange, RemarkView } from '@rosemary/api';
import { ref } from 'vue';
import { call } from '../platform/call.ts';
import { useNotices } from '../stores/noticeStore.ts';

const remarks = ref<readonly RemarkView[] | null>(null);

/** One's own stock remarks, read once and shared by every work that is marked. */
export function useRemarks() {
  const notices = useNotices();
  async function load(isFresh = false): Promise<void> {
    if (remarks.value === null || isFresh) remarks.value = await call(api.listRemarks, {}).catch(() => []);
  }
  async function run(act: () => Promise<readonly RemarkView[]>): Promise<boolean> {
    try {
      remarks.value = await act();
      return true;
    } catch (error) {
      notices.sayFault(error);
      return false;
    }
  }
  async function add(body: string, criterion: string): Promise<void> {
    if (remarks.value?.some((r) => r.body === body) === true) {
      notices.say('This is among your remarks already.');
      return;
    }
    const id = crypto.randomUUID();
    if (await run(() => call(api.addRemark, {}, { id, body, criterion, shortcut: '' })))
      notices.say('Kept among your remarks: press R on selected words to say it again.', async () => {
        await run(() => call(api.removeRemark, { remarkId: id }));
      });
  }
  async function remove(remark: RemarkView): Promise<void> {
    if (await run(() => call(api.removeRemark, { remarkId: remark.id })))
      notices.say('The remark is removed; the notes it stands in stay.', async () => {
        await run(() => call(api.restoreRemark, { remarkId: remark.id }));
      });
  }
  const change = (remark: RemarkView, to: Omit<RemarkChange, 'version'>): Promise<boolean> =>
    run(() => call(api.changeRemark, { remarkId: remark.id }, { ...to, version: remark.version }));
  const takeStarters = (): Promise<boolean> => run(() => call(api.takeStarterRemarks, {}));
  return { remarks, load, add, remove, change, takeStarters };
}
