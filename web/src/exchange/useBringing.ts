import type { ArchiveDone, PackagePreview } from '@rosemary/api';
import { computed, ref, type Ref } from 'vue';
import { useFileSending } from '../parts/useFileSending.ts';
import { send } from '../platform/http.ts';
import { useCourse } from '../shell/courseStore.ts';
import { useNotices } from '../shell/noticeStore.ts';

/** A package is looked at first; it is taken in when its reader says so, and can be taken back as one step. */
export function useBringing(courseId: Ref<string>) {
  const course = useCourse();
  const notices = useNotices();
  const { file, share, fault, send: carry, cancel } = useFileSending();
  const preview = ref<PackagePreview | null>(null);
  const done = ref<ArchiveDone | null>(null);
  const base = computed(() => `/courses/${courseId.value}`);

  function drop(): void {
    file.value = null;
    preview.value = null;
  }
  async function look(chosen: File): Promise<void> {
    done.value = null;
    preview.value = null;
    file.value = chosen;
    preview.value = await carry<PackagePreview>(`${base.value}/archive/preview`);
    if (preview.value === null) file.value = null;
  }
  async function takeBack(report: ArchiveDone): Promise<void> {
    if (report.itemIds.length > 0) await send('POST', `${base.value}/items/removals`, { itemIds: report.itemIds });
    for (const id of report.unitIds) await send('DELETE', `${base.value}/units/${id}`);
    done.value = null;
    void course.load(courseId.value);
  }
  async function bring(): Promise<void> {
    const report = await carry<ArchiveDone>(`${base.value}/archive`);
    if (report === null) return;
    done.value = report;
    drop();
    void course.load(courseId.value);
    const isNothing = report.itemIds.length === 0 && report.unitIds.length === 0;
    notices.say(`${report.itemIds.length} items are here.`, isNothing ? null : () => takeBack(report));
  }
  return { file, share, fault, preview, done, look, bring, drop, cancel };
}
