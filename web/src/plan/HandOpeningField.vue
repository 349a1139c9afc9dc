<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { AudienceName, PlanItem } from '@rosemary/api';
import { dayAndTime } from '@rosemary/core';
import { ref } from 'vue';
import DateField from '../parts/DateField.vue';
import WhomSelect from '../parts/WhomSelect.vue';
import { call, takeBack } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useNotices } from '../stores/noticeStore.ts';
import ActButton from '../parts/ActButton.vue';

/** Opens an item for one student or for all until a time, whatever its dates and rules say. */
const props = defineProps<{ item: PlanItem; base: { readonly courseId: string }; zone: string; now: number; canEdit: boolean }>();
const emit = defineEmits<{ saved: [item: PlanItem] }>();
const notices = useNotices();
const whom = ref<{ enrolmentId: string | null; name: string } | null>(null);
const until = ref<string | null>(null);
const fault = ref<string | null>(null);

function begin(member: Pick<AudienceName, 'enrolmentId' | 'name'>): void {
  whom.value = { enrolmentId: member.enrolmentId, name: member.name };
  until.value = new Date(props.now + 86_400_000).toISOString();
  fault.value = null;
}
async function open(): Promise<void> {
  if (whom.value === null || until.value === null) return;
  const { name, enrolmentId } = whom.value;
  try {
    const body = { enrolmentId, until: until.value };
    const made = await call(api.openByHand, { ...props.base, itemId: props.item.id }, body, `“${props.item.title}” opened by hand`);
    if (made === null) return;
    whom.value = null;
    emit('saved', made.item);
    const at = { ...props.base, itemId: props.item.id, openingId: made.id };
    notices.say(`“${props.item.title}” is open for ${name}.`, async () => {
      emit('saved', await takeBack(api.openByHand, at));
    });
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not opened.';
  }
}
async function end(id: string): Promise<void> {
  try {
    const at = { ...props.base, itemId: props.item.id, openingId: id };
    const ended = await call(api.endHandOpening, at, undefined, `“${props.item.title}” by its dates again`);
    if (ended !== null) emit('saved', ended);
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not changed.';
  }
}
</script>

<template>
  <div class="field">
    <span class="label">{{ item.handOpenings.length === 0 ? 'Opened by hand for nobody' : 'Opened by hand' }}</span>
    <ul v-if="item.handOpenings.length > 0" class="bare-list">
      <li v-for="h in item.handOpenings" :key="h.id">
        <span>for {{ h.name }} until {{ dayAndTime(Date.parse(h.until), zone, now) }}</span
        ><ActButton v-if="canEdit" look="act" :aria-label="`End the opening for ${h.name}`" @click="end(h.id)">end</ActButton>
      </li>
    </ul>
    <form v-if="whom" @submit.prevent="open">
      <DateField
        :model-value="until"
        :label="`Open for ${whom.name} until`"
        :zone="zone"
        :now="now"
        is-required
        :fault="fault"
        @change="until = $event"
      />
      <ActButton type="submit" look="quiet">Open</ActButton> <ActButton look="act" @click="whom = null">leave it</ActButton>
    </form>
    <p v-else-if="canEdit && !item.isDraft" class="choices">
      <ActButton look="act" @click="begin({ enrolmentId: null, name: 'everyone' })">Open for everyone…</ActButton>
      <WhomSelect label="Open for one student" words="Open for one student…" :taken="[]" :with-sections="false" @choose="begin" />
    </p>
    <p v-if="fault && !whom" class="fault" role="alert">{{ fault }}</p>
  </div>
</template>

<style scoped>
li {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  padding: 2px 0;
}
.choices {
  display: grid;
  gap: 4px;
  justify-items: start;
}
</style>
