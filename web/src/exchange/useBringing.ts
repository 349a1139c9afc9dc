import * as api from '@rosemary/api/endpoints';
import type { ArchiveDone, PackagePreview } from '@rosemary/api';
import { computed, ref, type Ref } from 'vue';
import { useFileSending } from '../parts/media/useFileSending.ts';
import { call, takeBack as putBack } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import { countOf } from '@rosemary/core';

/** A package is looked at first; it is taken in when its reader says so, and can be taken back as one step. */
export function useBringing(courseId: Ref<string>) {
  const course = useCourse();
  const notices = useNotices();
  const { file, share, fault, carry, cancel } = useFileSending();
  const preview = ref<PackagePreview | null>(null);
  const done = ref<ArchiveDone | null>(null);
  const base = computed(() => ({ courseId: courseId.value }));

  function drop(): void {
    file.value = null;
    preview.value = null;
  }
  async function look(chosen: File): Promise<void> {
    done.value = null;
    preview.value = null;
    file.value = chosen;
    preview.value = await carry(api.previewArchive, base.value);
    if (preview.value === null) file.value = null;
  }
  async function takeBack(report: ArchiveDone): Promise<void> {
    const { itemIds, unitIds } = report;
    if (itemIds.length > 0) await putBack(api.importArchive, base.value, { itemIds });
    for (const unitId of unitIds) await call(api.removeUnit, { ...base.value, unitId }, undefined, 'Without what came in');
    done.value = null;
    void course.load(courseId.value);
  }
  async function bring(): Promise<void> {
    const report = await carry(api.importArchive, base.value, 'Importing the archive');
    if (report === null) return;
    done.value = report;
    drop();
    void course.load(courseId.value);
    const isNothing = report.itemIds.length === 0 && report.unitIds.length === 0;
    notices.say(`${countOf(report.itemIds.length, 'item is', 'items are')} here.`, isNothing ? null : () => takeBack(report));
  }
  return { file, share, fault, preview, done, look, bring, drop, cancel };
}
