<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { AssignmentSetting, DiscussionView, ItemDetail } from '@rosemary/api';
import { pointsInWords, minutesInWords, dayAndTime, type DocumentNode } from '@rosemary/core';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import DocumentEditor from '../parts/DocumentEditor.vue';
import DocumentView from '../parts/DocumentView.vue';
import ItemGlyph from '../parts/ItemGlyph.vue';
import LeafState from '../parts/LeafState.vue';
import { call } from '../platform/call.ts';
import { makeSerial } from '../platform/serial.ts';
import { useSaving } from '../platform/useSaving.ts';
import { useCourse } from '../stores/courseStore.ts';
import AssignmentSettings from './AssignmentSettings.vue';
import { useNotices } from '../stores/noticeStore.ts';
import DiscussionBody from '../talk/DiscussionBody.vue';
import DiscussionSide from './DiscussionSide.vue';
import LinkEditor from './LinkEditor.vue';
import PageSide from './PageSide.vue';
import RubricEditor from './RubricEditor.vue';
import ShownFileEditor from './ShownFileEditor.vue';

const route = useRoute();
const router = useRouter();
const course = useCourse();
const courseId = computed(() => String(route.params.courseId));
const itemId = computed(() => String(route.params.itemId));
const detail = ref<ItemDetail | null>(null);
const text = shallowRef<DocumentNode | null>(null);
const fault = ref('');
const editor = ref<InstanceType<typeof DocumentEditor> | null>(null);
let version = 0;
/** Counts the saves, so that what stands beside the page follows. */
const savedTurn = ref(0);
const notices = useNotices();
const base = computed(() => ({ courseId: courseId.value, itemId: itemId.value }));
const canEdit = computed(() => course.head?.role === 'instructor');

const serial = makeSerial();
const saving = useSaving<DocumentNode>(
  () => `text ${itemId.value}`,
  (document) =>
    serial(async () => {
      const at = base.value;
      const saved =
        detail.value?.item.kind === 'page'
          ? await call(api.savePage, at, { document, version })
          : await call(api.saveInstructions, at, { instructions: document, version });
      version = saved.version;
      savedTurn.value += 1;
      return null;
    }),
);
onMounted(async () => {
  try {
    const found = await call(api.getItem, base.value);
    if (found.item.kind === 'quiz') {
      await router.replace({ name: 'quiz', params: route.params });
      return;
    }
    version = found.page?.version ?? found.assignment?.version ?? 0;
    const kept = await saving.findKept();
    text.value = kept ?? found.page?.document ?? found.assignment?.instructions ?? null;
    detail.value = found;
    if (kept !== null) saving.push(kept);
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
});
const theirs = computed(() =>
  saving.state.value === 'conflict'
    ? (saving.fault.value?.problem.current as { version: number; document?: DocumentNode; instructions?: DocumentNode })
    : null,
);
async function takeTheirs(): Promise<void> {
  const next = theirs.value;
  if (!next) return;
  version = next.version;
  text.value = next.document ?? next.instructions ?? null;
  if (text.value) editor.value?.replace(text.value);
  await saving.forget();
}
function keepMine(): void {
  const next = theirs.value;
  if (!next || !text.value) return;
  version = next.version;
  saving.push(text.value);
}
function change(document: DocumentNode): void {
  text.value = document;
  saving.push(document);
}
/** Another text in place of this one, with the way back. */
function put(document: DocumentNode, words: string): void {
  const before = text.value;
  const show = (next: DocumentNode): void => {
    editor.value?.replace(next);
    change(next);
  };
  show(document);
  if (before !== null)
    notices.say(words, () => {
      show(before);
      return Promise.resolve();
    });
}
/** The words that open a discussion, saved as they are typed; its threads stand below and look after themselves. */
const talk = shallowRef<DiscussionView | null>(null);
const talkTurn = ref(0);
let talkVersion = 0;
const talkSaving = useSaving<DocumentNode>(
  () => `discussion ${itemId.value}`,
  (document) =>
    serial(async () => {
      talkVersion = (
        await call(api.changeDiscussion, { courseId: courseId.value, itemId: itemId.value }, { document, version: talkVersion })
      ).version;
      return null;
    }),
);
function onTalk(view: DiscussionView): void {
  // What is being typed is not drawn afresh by somebody's post, nor is its version: a change by someone else is a conflict.
  if (talk.value === null) talkVersion = view.version;
  talk.value = talk.value === null ? view : { ...view, document: talk.value.document };
}
const pushTalk = (document: DocumentNode): void => {
  talkSaving.push(document);
};
async function setTalk(change: { isPostFirst?: boolean; isClosed?: boolean }): Promise<void> {
  try {
    await talkSaving.flush();
    await serial(async () => {
      talkVersion = (
        await call(api.changeDiscussion, { courseId: courseId.value, itemId: itemId.value }, { ...change, version: talkVersion })
      ).version;
    });
    if (talk.value) talk.value = { ...talk.value, ...change };
    talkTurn.value += 1;
  } catch (error) {
    notices.sayFault(error);
  }
}
function setAssignment(next: AssignmentSetting): void {
  if (detail.value) {
    detail.value = { ...detail.value, assignment: next };
    version = next.version;
  }
}
const what = computed(() => {
  const item = detail.value?.item;
  if (!item) return '';
  return [
    item.dueAt === null ? null : `due ${dayAndTime(Date.parse(item.dueAt), course.zone, course.now)}`,
    minutesInWords(item.estimatedMinutes),
    item.possible > 0 ? pointsInWords(item.possible) : null,
  ]
    .filter(Boolean)
    .join(' · ');
});
</script>

<template>
  <div v-if="fault" class="pad">
    <h2>This item cannot be opened</h2>
    <p class="soft">{{ fault }}</p>
  </div>
  <div v-else-if="detail" class="two" style="flex: 1">
    <section class="bed">
      <div class="sheet-paper">
        <p class="label">
          <router-link :to="{ name: 'plan', params: { courseId }, query: { item: itemId } }">Plan</router-link> ·
          <ItemGlyph :kind="detail.item.kind" /> {{ what }} · <LeafState :state="detail.item.state" /> {{ detail.item.state }}
        </p>
        <h1 class="title">{{ detail.item.title }}</h1>
        <div v-if="theirs" class="conflict" role="alert">
          <b>Someone else saved this after you opened it.</b> <button class="act" @click="takeTheirs">Take theirs</button> ·
          <button class="act" @click="keepMine">Keep mine over it</button>
          <details>
            <summary>Their version</summary>
            <DocumentView :document="theirs.document ?? theirs.instructions ?? null" />
          </details>
        </div>
        <DocumentEditor
          v-if="canEdit && (detail.page || detail.assignment)"
          ref="editor"
          :model-value="text"
          :label="detail.item.kind === 'page' ? 'Page' : 'Instructions'"
          :course-id="courseId"
          @change="change"
          ><template #state
            ><span class="label saved" role="status">{{ saving.words.value }}</span></template
          ></DocumentEditor
        >
        <template v-else-if="detail.item.kind === 'discussion'">
          <DocumentEditor
            v-if="talk && canEdit"
            ref="editor"
            :model-value="talk.document"
            label="What is discussed"
            :course-id="courseId"
            @change="pushTalk"
            ><template #state
              ><span class="label saved" role="status">{{ talkSaving.words.value }}</span></template
            ></DocumentEditor
          >
          <DocumentView v-else-if="talk" :document="talk.document" />
          <DiscussionBody :key="talkTurn" :course-id="courseId" :item-id="itemId" @shown="onTalk" />
        </template>
        <LinkEditor
          v-else-if="detail.link"
          :base="base"
          :link="detail.link"
          :can-edit="canEdit"
          @saved="detail = { ...detail!, link: $event }"
        />
        <ShownFileEditor
          v-else-if="detail.file"
          :base="base"
          :course-id="courseId"
          :shown="detail.file"
          :can-edit="canEdit"
          @saved="detail = { ...detail!, file: $event }"
        />
        <DocumentView v-else :document="text" />
        <p v-if="detail.item.kind === 'activity'" class="soft">
          This lives in the gradebook only: it is observed and its scores are typed there.
        </p>
        <RubricEditor
          v-if="detail.item.kind === 'assignment' && detail.assignment?.judged === 'points'"
          :base="base"
          :title="detail.item.title"
          :rubric="detail.rubric"
          :possible="detail.item.possible"
          :can-edit="canEdit"
          @saved="detail = { ...detail!, rubric: $event }"
        />
      </div>
    </section>
    <PageSide v-if="detail.page" :base="base" :text="text" :can-edit="canEdit" :saved-turn="savedTurn" @put="put" />
    <DiscussionSide
      v-if="detail.item.kind === 'discussion' && talk"
      :view="talk"
      :can-edit="canEdit"
      :counts="detail.item.counts"
      @set="setTalk"
    />
    <AssignmentSettings
      v-if="detail.assignment"
      :base="base"
      :setting="detail.assignment"
      :can-edit="canEdit"
      :item="detail.item"
      :version="() => version"
      :serial="serial"
      @saved="setAssignment"
    />
  </div>
  <div v-else class="bed">
    <div class="sheet-paper">
      <div class="skeleton" style="height: 30px; width: 60%" />
      <div v-for="n in 6" :key="n" class="skeleton" style="height: 16px; margin-top: 12px" />
    </div>
  </div>
</template>

<style scoped>
.bed {
  flex: 1;
  background: var(--bed);
  padding: 16px 22px 40px;
  min-width: 0;
}
.sheet-paper {
  max-width: 720px;
  margin: 0 auto;
  padding: 30px 46px 40px;
}
.title {
  margin: 4px 0 16px;
}
.saved {
  margin-left: auto;
}
.conflict {
  border-left: 3px solid var(--clay);
  padding: 4px 0 4px 12px;
  margin-bottom: 14px;
}
</style>
