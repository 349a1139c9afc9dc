<script setup lang="ts">
import type { NoticeChoice, NoticesView } from '@rosemary/api';
import { ref } from 'vue';
import { useSession } from '../stores/sessionStore.ts';
import NoticeChoices from './NoticeChoices.vue';
import ActButton from '../parts/ActButton.vue';
import { LOCALE } from '@rosemary/core';

/** What somebody is told, newest first, and how they are told. */
defineProps<{ view: NoticesView | null }>();
const emit = defineEmits<{ leave: []; choose: [NoticeChoice] }>();
const session = useSession();
const isChoosing = ref(false);
const DAY = new Intl.DateTimeFormat(LOCALE, { weekday: 'short', day: 'numeric', month: 'short' });
const TIME = new Intl.DateTimeFormat(LOCALE, { hour: '2-digit', minute: '2-digit' });
const when = (at: string): string => `${DAY.format(new Date(at)).replace(',', '')} ${TIME.format(new Date(at))}`;
</script>

<template>
  <div class="sheet menu told">
    <p v-if="view && view.notices.length === 0" class="soft none">What you are told will stand here.</p>
    <router-link v-for="n in view?.notices" :key="n.id" :to="n.path" :class="{ new: !n.isSeen }" @click="emit('leave')">
      {{ n.words }} <span class="label">{{ n.course }} · {{ when(n.at) }}{{ n.isSeen ? '' : ' · new' }}</span>
    </router-link>
    <hr />
    <ActButton :aria-expanded="isChoosing" @click="isChoosing = !isChoosing">How I am told…</ActButton>
    <NoticeChoices v-if="isChoosing && view" :choices="view.choices" @choose="emit('choose', $event)" />
    <router-link v-if="session.me?.isDemo || session.me?.person?.isAdministrator" to="/outbox" @click="emit('leave')"
      >Outbox: what would be mailed</router-link
    >
  </div>
</template>

<style scoped>
.told {
  width: 340px;
  max-width: 92vw;
}
.told .label {
  display: block;
}
.new {
  font-weight: 600;
}
.none {
  padding: 5px 14px;
}
</style>
