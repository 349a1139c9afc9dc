import type { EditedText, TextSaved } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import { computed, ref, shallowRef, type ComputedRef, type Ref, type ShallowRef } from 'vue';
import { makeSerial, type Serial } from '../platform/serial.ts';
import { useSaving, type Saving } from '../platform/useSaving.ts';

/** The text of an item while it is written: saved as one goes, and what somebody else saved meanwhile shown beside it. */
export interface ItemText {
  readonly text: ShallowRef<DocumentNode | null>;
  /** What was kept in this browser is looked up; the text can be shown. */
  readonly isReady: Ref<boolean>;
  /** Counts the saves, so that what stands beside the text follows. */
  readonly savedTurn: Ref<number>;
  readonly saving: Saving<DocumentNode>;
  /** Writes of the text and of its setting share one version, and go out one after another. */
  readonly serial: Serial;
  readonly version: () => number;
  readonly setVersion: (version: number) => void;
  readonly theirs: ComputedRef<{ readonly version: number; readonly document: DocumentNode | null } | null>;
  /** Students read it, so that what is written waits until it is published. */
  readonly isRead: Ref<boolean>;
  /** There is something that is not published. */
  readonly isWorking: Ref<boolean>;
  /** Who began what is not published, where it was begun before this text was opened. */
  readonly begun: Ref<{ readonly by: string; readonly at: string } | null>;
  readonly begin: (edited: EditedText | null, version: number) => Promise<void>;
  /** Another text stands here, which is saved already. */
  readonly show: (document: DocumentNode) => void;
  readonly change: (document: DocumentNode, isReplacing?: boolean) => void;
  readonly takeTheirs: () => Promise<DocumentNode | null>;
  readonly keepMine: () => void;
}

type Conflict = { readonly version: number; readonly document?: DocumentNode; readonly instructions?: DocumentNode };

export function useItemText(
  keptAs: () => string,
  save: (document: DocumentNode, version: number, isReplacing: boolean) => Promise<TextSaved>,
): ItemText {
  const text = shallowRef<DocumentNode | null>(null);
  const isReady = ref(false);
  const savedTurn = ref(0);
  const [isRead, isWorking] = [ref(false), ref(false)];
  const begun = ref<ItemText['begun']['value']>(null);
  const serial = makeSerial();
  let version = 0;
  /** What stood before the next save stays a version of its own. */
  let replaces = false;
  const saving = useSaving<DocumentNode>(keptAs, (document) =>
    serial(async () => {
      const isReplacing = replaces;
      const saved = await save(document, version, isReplacing);
      version = saved.version;
      // Somebody may have opened it, or taken it back, while it was written.
      isRead.value = saved.isWorking;
      isWorking.value = saved.isWorking;
      if (isReplacing) replaces = false;
      savedTurn.value += 1;
      return null;
    }),
  );
  const theirs = computed(() => {
    if (saving.state.value !== 'conflict') return null;
    const current = saving.fault.value?.problem.current as Conflict;
    return { version: current.version, document: current.document ?? current.instructions ?? null };
  });
  return {
    ...{ text, isReady, savedTurn, saving, serial, theirs, isRead, isWorking, begun },
    version: () => version,
    setVersion: (next) => {
      version = next;
    },
    async begin(edited, from) {
      version = from;
      isRead.value = edited?.isRead === true;
      isWorking.value = edited !== null && edited.working !== null;
      begun.value = edited?.working ? { by: edited.working.begunBy, at: edited.working.begunAt } : null;
      const kept = await saving.findKept();
      text.value = kept ?? edited?.document ?? null;
      isReady.value = true;
      if (kept !== null) saving.push(kept);
    },
    show(document) {
      text.value = document;
    },
    change(document, isReplacing = false) {
      replaces ||= isReplacing;
      text.value = document;
      saving.push(document);
    },
    async takeTheirs() {
      const next = theirs.value;
      if (next === null) return null;
      version = next.version;
      text.value = next.document;
      await saving.forget();
      return next.document;
    },
    keepMine() {
      const next = theirs.value;
      if (next === null || text.value === null) return;
      version = next.version;
      // Theirs stays among the versions.
      replaces = true;
      saving.push(text.value);
    },
  };
}
