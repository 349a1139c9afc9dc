<script setup lang="ts">
import { useDraft } from '../platform/kept.ts';
import * as api from '@rosemary/api/endpoints';
import type { DiscussionView, PostChange, PostView, Thread } from '@rosemary/api';
import { plainText, type DocumentNode } from '@rosemary/core';
import { computed, nextTick, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import DocumentEditor from '../parts/DocumentEditor.vue';
import { call } from '../platform/call.ts';
import { HttpProblem, isSeenAs } from '../platform/http.ts';
import { useEvents } from '../platform/useEvents.ts';
import { useNotices } from '../stores/noticeStore.ts';
import PostLine from './PostLine.vue';
import ActButton from '../parts/ActButton.vue';
import LineField from '../parts/fields/LineField.vue';

/** The threads of a discussion, and where one writes. The same for those who teach and those who study. */
const props = defineProps<{ courseId: string; itemId: string }>();
const emit = defineEmits<{ shown: [view: DiscussionView] }>();
const route = useRoute();
const notices = useNotices();
const view = ref<DiscussionView | null>(null);
const fault = ref('');
const writeFault = ref('');
const base = computed(() => ({ courseId: props.courseId, itemId: props.itemId }));
/** A thread that is being begun, or the thread that is being answered. */
type Post = { readonly threadId: string | null; title: string; document: DocumentNode; readonly id: string };
const draft = ref<Post | null>(null);
const kept = useDraft<Post>(() => `post ${props.itemId}`);
const isLooking = computed(() => isSeenAs());
const canWrite = computed(() => view.value !== null && view.value.whyNot === null && !isLooking.value);

function show(next: DiscussionView): void {
  // What was new when the page was opened stays marked until it is left.
  const fresh = new Set(
    view.value?.threads
      .flatMap((t) => [t, ...t.replies])
      .filter((p) => p.isUnread)
      .map((p) => p.id),
  );
  const keep = <P extends PostView>(p: P): P => (fresh.has(p.id) ? { ...p, isUnread: p.state === 'shown' } : p);
  view.value = { ...next, threads: next.threads.map((t) => ({ ...keep(t), replies: t.replies.map(keep) })) };
  emit('shown', next);
}
async function load(): Promise<void> {
  try {
    show(await call(api.getDiscussion, base.value));
    await markRead();
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
async function markRead(): Promise<void> {
  const postIds =
    view.value?.threads
      .flatMap((t) => [t, ...t.replies])
      .filter((p) => p.isUnread)
      .map((p) => p.id) ?? [];
  if (postIds.length > 0 && !isLooking.value) await call(api.readPosts, base.value, { postIds }).catch(() => undefined);
}
onMounted(async () => {
  await load();
  draft.value = kept.find();
  if (typeof route.query.post !== 'string') return;
  await nextTick();
  document.getElementById(`post-${route.query.post}`)?.scrollIntoView({ block: 'center' });
});
useEvents(
  computed(() => props.courseId),
  (event) => {
    if (event.topic === 'again' || (event.topic === 'talk' && event.itemId === props.itemId)) void load();
  },
);
const EMPTY: DocumentNode = { type: 'doc', content: [{ type: 'paragraph' }] };
/** The identifier is made when one begins to write: however often it is sent, it is there once. */
function begin(threadId: string | null): void {
  writeFault.value = '';
  draft.value = { threadId, title: '', document: EMPTY, id: crypto.randomUUID() };
}
/** What is typed survives a reload. */
function keep(): void {
  if (draft.value !== null) kept.keep(draft.value);
}
function leave(): void {
  draft.value = null;
  kept.forget();
}
async function post(): Promise<void> {
  const d = draft.value;
  if (d === null) return;
  writeFault.value = '';
  try {
    show(await call(api.addPost, base.value, { ...d, title: d.threadId === null ? d.title.trim() : '' }));
    leave();
  } catch (error) {
    writeFault.value = error instanceof HttpProblem ? error.message : 'It was not sent. What you wrote is kept.';
  }
}
async function change(p: PostView, what: Omit<PostChange, 'version'>, words: string, back: Omit<PostChange, 'version'>): Promise<boolean> {
  try {
    show(await call(api.changePost, { ...base.value, postId: p.id }, { ...what, version: p.version }));
    notices.say(words, async () => {
      const now = view.value?.threads.flatMap((t) => [t, ...t.replies]).find((o) => o.id === p.id);
      show(await call(api.changePost, { ...base.value, postId: p.id }, { ...back, version: now?.version ?? p.version + 1 }));
    });
    return true;
  } catch (error) {
    notices.sayFault(error);
    await load();
    return false;
  }
}
const canSend = computed(
  () =>
    draft.value !== null &&
    plainText(draft.value.document).trim() !== '' &&
    (draft.value.threadId !== null || draft.value.title.trim() !== ''),
);
const answers = (t: Thread): string => (t.replies.length === 1 ? '1 answer' : `${t.replies.length} answers`);
</script>

<template>
  <div class="talk">
    <p v-if="fault" class="fault">{{ fault }}</p>
    <template v-if="!view && !fault"><div v-for="n in 3" :key="n" class="skeleton" style="height: 50px; margin-top: 12px" /></template>
    <template v-if="view">
      <p v-if="view.whyNot" class="soft">{{ view.whyNot }}</p>
      <p v-if="view.mustPostFirst" class="soft">Write first: what the others wrote is shown once you have.</p>
      <p v-if="canWrite && draft === null"><ActButton look="quiet" @click="begin(null)">Begin a thread</ActButton></p>
      <form v-if="draft && draft.threadId === null" class="write" @submit.prevent="post">
        <label class="field"
          ><span class="label">Title of the thread</span><LineField v-model="draft.title" maxlength="160" takes-focus @input="keep"
        /></label>
        <DocumentEditor
          :model-value="draft.document"
          label="Your post"
          is-small
          @change="
            draft.document = $event;
            keep();
          "
        />
        <p v-if="writeFault" class="fault" role="alert">{{ writeFault }}</p>
        <p>
          <ActButton type="submit" look="go" :disabled="!canSend">Post it</ActButton>
          <ActButton look="quiet" @click="leave">Leave it</ActButton>
        </p>
      </form>
      <p v-if="view.threads.length === 0 && !view.mustPostFirst && draft === null" class="soft">Nobody has written yet.</p>
      <section v-for="t in view.threads" :key="t.id" :aria-label="t.title || 'A thread'">
        <h3>
          {{ t.title || 'A thread' }}
          <span class="label">{{
            [t.isPinned ? 'pinned' : null, t.isClosed ? 'closed' : null, answers(t), t.unread > 0 ? `${t.unread} new` : null]
              .filter(Boolean)
              .join(' · ')
          }}</span>
        </h3>
        <PostLine :post="t" is-thread :can-moderate="view.canModerate" :can-write="canWrite" :change="(c, w, b) => change(t, c, w, b)" />
        <div class="answers">
          <PostLine
            v-for="r in t.replies"
            :key="r.id"
            :post="r"
            :is-thread="false"
            :can-moderate="view.canModerate"
            :can-write="canWrite"
            :change="(c, w, b) => change(r, c, w, b)"
          />
          <form v-if="draft && draft.threadId === t.id" class="write" @submit.prevent="post">
            <DocumentEditor
              :model-value="draft.document"
              :label="`Your answer to ${t.title}`"
              is-small
              @change="
                draft.document = $event;
                keep();
              "
            />
            <p v-if="writeFault" class="fault" role="alert">{{ writeFault }}</p>
            <p>
              <ActButton type="submit" look="go" :disabled="!canSend">Answer</ActButton>
              <ActButton look="quiet" @click="leave">Leave it</ActButton>
            </p>
          </form>
          <p v-else-if="canWrite && draft === null && (!t.isClosed || view.canModerate)">
            <ActButton look="act" :aria-label="`Answer ${t.title}`" @click="begin(t.id)">answer</ActButton>
          </p>
        </div>
      </section>
    </template>
  </div>
</template>

<style scoped>
section {
  border-top: 1px solid var(--frost);
  padding: 12px 0;
  margin-top: 8px;
}
h3 {
  font-size: 16px;
}
.answers {
  border-left: 1px solid var(--frost);
  padding-left: 16px;
  margin-left: 4px;
}
.write {
  background: var(--paper);
  border: 1px solid var(--frost);
  border-radius: 4px;
  padding: 12px 16px;
  margin: 8px 0;
}
</style>
