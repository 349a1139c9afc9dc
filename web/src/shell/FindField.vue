<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import * as api from '@rosemary/api/endpoints';
import { call } from '../platform/call.ts';
import type { Found } from '@rosemary/api';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useNotices } from '../stores/noticeStore.ts';
import { useSession } from '../stores/sessionStore.ts';
import ActButton from '../parts/ActButton.vue';
import type { Typing } from '../parts/fields/typing.ts';
import LineField from '../parts/fields/LineField.vue';
import { placesOf } from './views.ts';

const session = useSession();
const notices = useNotices();
const route = useRoute();
const router = useRouter();
const letters = ref('');
const found = ref<readonly Found[]>([]);
const at = ref(0);
const isOpen = ref(false);
const field = ref<Typing | null>(null);
let timer: ReturnType<typeof setTimeout> | undefined;

interface Line extends Omit<Found, 'around'> {
  readonly around?: string;
  readonly run?: () => void;
}
/** Actions and places known in the browser come before what the server finds. */
const local = computed((): Line[] => {
  const word = letters.value.trim().toLowerCase();
  const courses = (session.me?.courses ?? []).flatMap((c) =>
    placesOf(c.role).map(([name, words]): Line => ({
      what: 'view',
      title: `${words}, ${c.shortTitle}`,
      where: c.code,
      to: router.resolve({ name, params: { courseId: c.id } }).path,
    })),
  );
  const actions: Line[] = [
    {
      what: 'action',
      title: session.theme === 'light' ? 'Dark page' : 'Light page',
      where: '',
      to: '',
      run: () => {
        void session.switchTheme();
      },
    },
    ...notices.past.toReversed().map((one): Line => ({
      what: 'undo',
      title: `Undo: ${one.text}`,
      where: '',
      to: '',
      run: () => {
        void notices.takeBack(one);
      },
    })),
    { what: 'view', title: 'Desk', where: '', to: '/' },
    { what: 'view', title: 'Calendar of all my courses', where: '', to: '/calendar' },
    ...(session.me?.courses.some((c) => c.role === 'instructor') === true
      ? [{ what: 'action', title: 'New course', where: '', to: '/courses/new' }]
      : []),
    {
      what: 'action',
      title: 'Sign out',
      where: '',
      to: '',
      run: () => {
        void session.signOut().then(() => router.push({ name: 'sign-in' }), notices.sayFault);
      },
    },
  ];
  // The course of the page itself, which may not have been loaded yet, and before the first page is there the course of its address: Enter
  // must never open another’s.
  const path = route.matched.length > 0 ? route.path : window.location.pathname;
  const here = /^\/courses\/[^/]+\//.exec(`${path}/`)?.[0] ?? '';
  return [...courses, ...actions]
    .filter((l) => l.title.toLowerCase().includes(word))
    .sort((a, b) => Number(b.to.startsWith(here)) - Number(a.to.startsWith(here)))
    .slice(0, 6);
});
const lines = computed((): Line[] => (letters.value.trim() === '' ? [] : [...local.value, ...found.value]));

watch(letters, (text) => {
  clearTimeout(timer);
  at.value = 0;
  isOpen.value = text.trim() !== '';
  if (text.trim().length < 2) {
    found.value = [];
    return;
  }
  timer = setTimeout(() => {
    call(api.find, { q: text }).then((list) => {
      if (letters.value === text) found.value = list;
    }, notices.sayFault);
  }, 150);
});

async function open(line: Line | undefined): Promise<void> {
  if (line === undefined) return;
  isOpen.value = false;
  letters.value = '';
  field.value?.blur();
  if (line.run) line.run();
  else await router.push(line.to);
}
function onKey(event: KeyboardEvent): void {
  if (event.key === 'ArrowDown') at.value = Math.min(lines.value.length - 1, at.value + 1);
  else if (event.key === 'ArrowUp') at.value = Math.max(0, at.value - 1);
  else if (event.key === 'Enter') void open(lines.value[at.value]);
  else if (event.key === 'Escape') {
    letters.value = '';
    field.value?.blur();
  } else return;
  event.preventDefault();
}
function onGlobal(event: KeyboardEvent): void {
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
    event.preventDefault();
    field.value?.focus();
  }
}
useEventListener(document, 'keydown', onGlobal);
const close = (): void => {
  setTimeout(() => {
    isOpen.value = false;
  }, 150);
};
</script>

<template>
  <div class="find">
    <LineField
      ref="field"
      v-model="letters"
      class="letters"
      placeholder="Search or run a command"
      aria-label="Search or run a command"
      input-role="combobox"
      :aria-expanded="isOpen"
      aria-controls="found"
      autocomplete="off"
      @keydown="onKey"
      @blur="close"
      @focus="isOpen = letters !== ''"
    />
    <kbd>Ctrl K</kbd>
    <div v-if="isOpen" id="found" class="list menu" role="listbox">
      <ActButton
        v-for="(line, n) in lines"
        :key="n"
        role="option"
        :aria-selected="n === at"
        :class="{ on: n === at }"
        @mousedown.prevent="open(line)"
      >
        {{ line.title }} <span class="soft">{{ line.what }}{{ line.where ? ` · ${line.where}` : '' }}</span>
        <span v-if="line.around" class="label around">{{ line.around }}</span>
      </ActButton>
      <p v-if="lines.length === 0" class="soft" style="padding: 5px 14px">Nothing with these letters.</p>
    </div>
  </div>
</template>

<style scoped>
.find {
  margin-left: auto;
  width: 300px;
  position: relative;
  border-bottom: 1px solid var(--leaf);
  padding: 3px 2px;
  display: flex;
  justify-content: space-between;
  align-items: center;
}
.letters {
  flex: 1;
  min-width: 0;
}
/* The line of the field is that of the whole, with its keys. */
.letters :deep(.v-field__outline) {
  display: none;
}
.find:focus-within {
  border-color: var(--bloom);
  box-shadow: 0 1px 0 var(--bloom);
}
.around {
  display: block;
}
.list {
  position: absolute;
  top: 34px;
  left: 0;
  right: 0;
  z-index: 20;
  background: var(--paper);
  border: 1px solid var(--frost);
  border-radius: 4px;
  box-shadow: 0 8px 28px rgb(20 32 26 / 0.18);
}
@media (max-width: 600px) {
  .find {
    display: none;
  }
}
</style>
