<script setup lang="ts">
import { useKeptLine } from '../platform/kept.ts';
import * as api from '@rosemary/api/endpoints';
import type { Conversation, Messages, MessageSent } from '@rosemary/api';
import { dayAndTime } from '@rosemary/core';
import { computed, onMounted, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { call } from '../platform/call.ts';
import { HttpProblem, isSeenAs } from '../platform/http.ts';
import { useFresh } from '../platform/useEvents.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import MessageForm from './MessageForm.vue';
import ActButton from '../parts/ActButton.vue';
import TextField from '../parts/fields/TextField.vue';

const route = useRoute();
const router = useRouter();
const course = useCourse();
const notices = useNotices();
const courseId = computed(() => String(route.params.courseId));
const base = computed(() => ({ courseId: courseId.value }));
const list = ref<Messages | null>(null);
const open = ref<Conversation | null>(null);
const isWriting = ref(false);
const fault = ref('');
const replyFault = ref('');
let key = crypto.randomUUID();
const openId = computed(() => (typeof route.query.of === 'string' ? route.query.of : null));
/** What is being answered, kept for each conversation until it is sent. */
const reply = useKeptLine(() => `reply ${openId.value ?? ''}`);

async function load(): Promise<void> {
  try {
    list.value = await call(api.getMessages, base.value);
    if (openId.value !== null && !isSeenAs()) await read(openId.value);
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
/** What is opened is read. */
async function read(id: string): Promise<void> {
  open.value = await call(api.getConversation, { ...base.value, conversationId: id });
  const line = list.value?.conversations.find((c) => c.id === id);
  if (line?.isUnread !== true) return;
  await call(api.readConversation, { ...base.value, conversationId: id });
  list.value = await call(api.getMessages, base.value);
}
/** Whoever was chosen elsewhere, to be written to here. */
const chosen = ref<{ personIds: readonly string[]; about: string } | null>(null);
onMounted(async () => {
  const { to, about } = history.state as { to?: string[]; about?: string };
  if (to !== undefined) {
    chosen.value = { personIds: to, about: about ?? '' };
    isWriting.value = true;
    history.replaceState({ ...history.state, to: undefined, about: undefined }, '');
  }
  await load();
});
useFresh(courseId, ['talk'], load);
watch(
  openId,
  (id) => {
    open.value = null;
    if (id !== null) {
      isWriting.value = false;
      read(id).catch(notices.sayFault);
    }
  },
  { immediate: true, flush: 'post' },
);
const show = (id: string | null): Promise<unknown> => router.replace({ query: id === null ? {} : { of: id } });
async function answer(): Promise<void> {
  if (open.value === null || reply.value.trim() === '') return;
  replyFault.value = '';
  try {
    open.value = await call(api.replyToMessage, { ...base.value, conversationId: open.value.id }, { key, body: reply.value.trim() });
    key = crypto.randomUUID();
    reply.value = '';
    list.value = await call(api.getMessages, base.value);
  } catch (error) {
    replyFault.value = error instanceof HttpProblem ? error.message : 'Not sent. What you wrote is kept here; send it again.';
  }
}
const report = ref<MessageSent['rows'] | null>(null);
function sent(answerOf: MessageSent): void {
  isWriting.value = false;
  list.value = answerOf.messages;
  report.value = answerOf.rows.length > 1 ? answerOf.rows : null;
  notices.say(answerOf.rows.length === 1 ? `Sent to ${answerOf.rows[0]?.name ?? ''}.` : `Sent to ${answerOf.rows.length}.`);
}
async function write(): Promise<void> {
  await show(null);
  report.value = null;
  isWriting.value = true;
}
const when = (at: string): string => dayAndTime(Date.parse(at), course.zone, course.now);
</script>

<template>
  <div class="pad">
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p v-if="isSeenAs()" class="soft">Messages are between those who write them, and are not seen as somebody else.</p>
    <template v-else>
      <template v-if="!list && !fault"><div v-for="n in 5" :key="n" class="skeleton" style="height: 40px; margin-top: 10px" /></template>
      <div v-if="list" :class="['columns', { one: open !== null || isWriting }]">
        <section class="list">
          <p><ActButton look="go" @click="write">Write</ActButton></p>
          <p v-if="list.conversations.length === 0" class="soft">
            No messages yet. What you write to somebody here, and what they answer, will stand here, for you and them alone.
          </p>
          <ul>
            <li v-for="c in list.conversations" :key="c.id">
              <ActButton :class="['line', { on: c.id === openId }]" :aria-current="c.id === openId" @click="show(c.id)">
                <span class="head"
                  ><b :class="{ new: c.isUnread }">{{ c.people.join(', ') }}</b
                  ><span v-if="c.isUnread" class="label unread">new</span><span class="label at at-end">{{ when(c.lastAt) }}</span></span
                >
                <span class="serif">{{ c.title }}</span>
                <span class="label last">{{ c.lastWords }}</span>
              </ActButton>
            </li>
          </ul>
        </section>
        <section class="right">
          <MessageForm v-if="isWriting" :base="base" :people="list.people" :chosen="chosen" @sent="sent" @leave="isWriting = false" />
          <template v-else-if="open">
            <p class="back"><ActButton look="act" @click="show(null)">All messages</ActButton></p>
            <h2>{{ open.title }}</h2>
            <p class="label">with {{ open.people.join(', ') }}</p>
            <article v-for="m in open.messages" :key="m.id" :class="{ own: m.isOwn }">
              <p class="label">
                <b>{{ m.isOwn ? 'You' : m.author }}</b> {{ when(m.at) }}
              </p>
              <p class="body">{{ m.body }}</p>
            </article>
            <form @submit.prevent="answer">
              <label class="field"
                ><span class="label">Answer</span><TextField v-model="reply" rows="4" maxlength="8000" @keydown.ctrl.enter="answer" />
              </label>
              <p v-if="replyFault" class="fault" role="alert">{{ replyFault }}</p>
              <p><ActButton type="submit" look="go" :disabled="reply.trim() === ''">Send</ActButton></p>
            </form>
          </template>
          <div v-else-if="report" role="status">
            <h2>Sent to {{ report.length }}</h2>
            <ul class="report">
              <li v-for="r in report" :key="r.name">
                {{ r.name }} <span class="soft">{{ r.isMailed ? 'here and by mail' : 'here' }}</span>
              </li>
            </ul>
          </div>
          <p v-else-if="list.conversations.length > 0" class="soft">Choose a message to read it.</p>
        </section>
      </div>
    </template>
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: minmax(0, 4fr) minmax(0, 7fr);
  gap: 44px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 12px 0 0;
}
.list li {
  border-top: 1px solid var(--frost);
}
.line {
  display: block;
  width: 100%;
  text-align: left;
  background: none;
  border: 0;
  font: inherit;
  color: inherit;
  padding: 8px 10px;
  cursor: pointer;
}
.line:hover,
.line.on {
  background: var(--bloom-wash);
}
.head {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
.head b {
  font-weight: 500;
}
.head b.new {
  font-weight: 700;
}
.unread {
  color: var(--clay);
}
.last {
  display: block;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.back {
  display: none;
}
article {
  border-top: 1px solid var(--frost);
  padding: 10px 0;
}
article.own {
  padding-left: 28px;
}
.body {
  font: 400 16px/25px var(--serif);
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  margin-top: 2px;
}
form {
  margin-top: 14px;
}
.report {
  columns: 2;
  max-height: 420px;
}
@media (max-width: 700px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
    gap: 16px;
  }
  .columns.one .list {
    display: none;
  }
  .back {
    display: block;
  }
}
</style>
