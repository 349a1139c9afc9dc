import type { RemarkChange, RemarkView } from '@rosemary/api';
import { ref } from 'vue';
import { get, send } from '../platform/http.ts';
import { useNotices } from '../shell/noticeStore.ts';

const remarks = ref<readonly RemarkView[] | null>(null);

/** One's own stock remarks, read once and shared by every work that is marked. */
export function useRemarks() {
  const notices = useNotices();
  async function load(isFresh = false): Promise<void> {
    if (remarks.value === null || isFresh) remarks.value = await get<RemarkView[]>('/remarks').catch(() => []);
  }
  async function run(method: string, path: string, body?: unknown): Promise<boolean> {
    try {
      remarks.value = await send<RemarkView[]>(method, path, body);
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
    if (await run('POST', '/remarks', { id, body, criterion, shortcut: '' }))
      notices.say('Kept among your remarks: press R on selected words to say it again.', async () => {
        await run('DELETE', `/remarks/${id}`);
      });
  }
  async function remove(remark: RemarkView): Promise<void> {
    if (await run('DELETE', `/remarks/${remark.id}`))
      notices.say('The remark is taken away; the notes it stands in stay.', async () => {
        await run('POST', `/remarks/${remark.id}/restore`);
      });
  }
  const change = (remark: RemarkView, to: Omit<RemarkChange, 'version'>): Promise<boolean> =>
    run('PATCH', `/remarks/${remark.id}`, { ...to, version: remark.version });
  const takeStarters = (): Promise<boolean> => run('POST', '/remarks/starter');
  return { remarks, load, add, remove, change, takeStarters };
}
