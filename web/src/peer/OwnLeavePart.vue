<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { OwnLeave, OwnPeer } from '@rosemary/api';
import type { ShownHow } from '@rosemary/core';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import TickBox from '../parts/fields/TickBox.vue';
import { call } from '../platform/call.ts';
import { useBusy } from '../platform/useBusy.ts';
import { useNotices } from '../stores/noticeStore.ts';

/** What an author allows with their own work: nothing, until they say so. */
const props = defineProps<{
  base: { readonly courseId: string; readonly itemId: string };
  leave: OwnLeave;
  isLooking: boolean;
}>();
const emit = defineEmits<{ changed: [peer: OwnPeer] }>();
const notices = useNotices();
const { isBusy, fault, run } = useBusy('Not saved. Try again.');
const HOW: readonly (readonly [ShownHow, string])[] = [
  ['no', 'nobody besides its reviewers'],
  ['without name', 'my class, without my name'],
  ['with name', 'my class, with my name'],
];
async function say(change: Partial<OwnLeave>): Promise<void> {
  const before = props.leave;
  const next = await run(() => call(api.setOwnLeave, props.base, { ...before, ...change }));
  if (next === null) return;
  emit('changed', next);
  notices.say('Saved. Your teacher may show your work as you say.', async () => {
    const version = next.leave?.version ?? 0;
    emit('changed', await call(api.setOwnLeave, props.base, { ...before, version }));
  });
}
const checked = (event: Event): boolean => (event.target as HTMLInputElement).checked;
</script>

<template>
  <section class="own-leave" aria-label="Who may read your work">
    <label class="field"
      ><span class="label">My teacher may show my work to</span
      ><ChoiceField :model-value="leave.toClass" :disabled="isBusy || isLooking" @change="say({ toClass: $event as ShownHow })">
        <option v-for="[value, text] in HOW" :key="value" :value="value">{{ text }}</option>
      </ChoiceField></label
    >
    <p>
      <label
        ><TickBox :model-value="leave.toLater" :disabled="isBusy || isLooking" @change="say({ toLater: checked($event) })" /> and to later
        classes, without my name</label
      >
    </p>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
  </section>
</template>
