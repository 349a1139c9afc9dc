import * as api from '@rosemary/api/endpoints';
import type { NewObjective, ObjectiveChange, ObjectivesPreview, ObjectiveView } from '@rosemary/api';
import { computed, ref, type Ref } from 'vue';
import { call, callWithFile } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useNotices } from '../stores/noticeStore.ts';

export interface ShownObjective extends ObjectiveView {
  readonly depth: number;
}

/** The objectives of a course and everything that changes them. */
export function useObjectives(courseId: Ref<string>) {
  const all = ref<readonly ObjectiveView[] | null>(null);
  const fault = ref('');
  const notices = useNotices();
  const base = computed(() => ({ courseId: courseId.value }));
  const shown = computed((): ShownObjective[] => {
    const depths = new Map<string, number>();
    return (all.value ?? []).map((o) => {
      const depth = o.parentId === null ? 0 : (depths.get(o.parentId) ?? 0) + 1;
      depths.set(o.id, depth);
      return { ...o, depth };
    });
  });
  async function load(): Promise<void> {
    try {
      all.value = (await call(api.listObjectives, base.value)).objectives;
    } catch (error) {
      fault.value = error instanceof Error ? error.message : '';
    }
  }
  /** Throws the problem, so that the field can show it. */
  async function add(wish: NewObjective): Promise<void> {
    all.value = (await call(api.addObjective, base.value, wish)).objectives;
  }
  async function change(o: ObjectiveView, what: Omit<ObjectiveChange, 'version'>): Promise<void> {
    try {
      all.value = (await call(api.changeObjective, { ...base.value, objectiveId: o.id }, { ...what, version: o.version })).objectives;
    } catch (error) {
      notices.sayFault(error);
      if (error instanceof HttpProblem && error.code === 'conflict') await load();
    }
  }
  async function remove(o: ObjectiveView): Promise<void> {
    try {
      all.value = (await call(api.removeObjective, { ...base.value, objectiveId: o.id })).objectives;
      notices.say(`“${o.code || o.statement.slice(0, 40)}” is deleted, with what stands below it.`, async () => {
        all.value = (await call(api.restoreObjective, { ...base.value, objectiveId: o.id })).objectives;
      });
    } catch (error) {
      notices.sayFault(error);
    }
  }
  /** Up or down among those below the same parent. */
  async function move(o: ObjectiveView, by: -1 | 1): Promise<void> {
    const siblings = (all.value ?? []).filter((s) => s.parentId === o.parentId);
    const at = siblings.findIndex((s) => s.id === o.id) + by;
    if (at >= 0 && at < siblings.length) await change(o, { position: at });
  }
  /** In: below the one before it; out: beside its parent. */
  async function indent(o: ObjectiveView, by: -1 | 1): Promise<void> {
    if (by > 0) {
      const siblings = (all.value ?? []).filter((s) => s.parentId === o.parentId);
      const before = siblings[siblings.findIndex((s) => s.id === o.id) - 1];
      if (before) await change(o, { parentId: before.id });
    } else if (o.parentId !== null) {
      await change(o, { parentId: (all.value ?? []).find((p) => p.id === o.parentId)?.parentId ?? null });
    }
  }
  const preview = (file: File): Promise<ObjectivesPreview> => callWithFile(api.previewObjectives, base.value, file);
  async function bring(file: File): Promise<void> {
    const done = await callWithFile(api.importObjectives, base.value, file);
    all.value = done.objectives;
    notices.say(`${done.added} added, ${done.changed} changed${done.left === 0 ? '' : `, ${done.left} left out`}.`);
  }
  return { all, shown, fault, load, add, change, remove, move, indent, preview, bring };
}
