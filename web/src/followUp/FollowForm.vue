<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { FollowUps, FollowWish } from '@rosemary/api';
import { formatPoints, pointsInWords, parsePoints } from '@rosemary/core';
import { computed, ref } from 'vue';
import LineInput from '../parts/LineInput.vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import TickBox from '../parts/fields/TickBox.vue';
import ActButton from '../parts/ActButton.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import LineField from '../parts/fields/LineField.vue';
import TextField from '../parts/fields/TextField.vue';

/** A rule: who reaches or misses so many points, and what follows. */
const props = defineProps<{ base: { readonly courseId: string; readonly itemId: string }; choices: FollowUps }>();
const emit = defineEmits<{ leave: []; made: [id: string] }>();
/** Where there are no reviews a rule waits for points, even while the item is worth none yet. */
const isScored = props.choices.possible !== null || !props.choices.areReviews;
const wish = ref<FollowWish>({
  ...{
    meets: isScored ? 'misses' : 'gave reviews',
    points: Math.round((props.choices.possible ?? 0) / 2),
    action: 'message',
    groupId: null,
    itemId: null,
    title: '',
    body: '',
  },
  isFromNow: false,
});
const fault = ref('');
const isOfPoints = computed(() => wish.value.meets !== 'gave reviews');
function setPoints(text: string): void {
  const read = parsePoints(text);
  fault.value = read.ok ? '' : read.reason;
  if (read.ok) wish.value = { ...wish.value, points: read.value };
}
async function make(): Promise<void> {
  fault.value = '';
  try {
    const { id } = await call(api.addFollowUp, props.base, wish.value);
    emit('made', id);
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not kept.';
  }
}
</script>

<template>
  <form class="sheet form" role="dialog" aria-label="What follows" @submit.prevent="make">
    <h2>What follows</h2>
    <div class="line">
      <label
        >Whoever
        <ChoiceField v-model="wish.meets" aria-label="When">
          <template v-if="isScored">
            <option value="misses">has less than</option>
            <option value="reaches">has at least</option>
          </template>
          <option v-if="choices.areReviews" value="gave reviews">has given all their reviews</option>
        </ChoiceField></label
      >
      <LineInput
        v-if="isOfPoints"
        class="no few-signs"
        :value="formatPoints(wish.points)"
        inputmode="decimal"
        aria-label="Points"
        @commit="setPoints($event)"
      />
      <span v-if="isOfPoints">of {{ pointsInWords(choices.possible ?? 0) }}</span>
    </div>
    <label class="field"
      ><span class="label">What follows</span>
      <ChoiceField v-model="wish.action">
        <option value="message">gets a message</option>
        <option value="group">joins a group</option>
        <option value="open">has an item opened</option>
      </ChoiceField></label
    >
    <template v-if="wish.action === 'message'">
      <label class="field"><span class="label">Subject</span><LineField v-model="wish.title" maxlength="160" /></label>
      <label class="field"><span class="label">Message</span><TextField v-model="wish.body" rows="5" maxlength="4000" /> </label>
    </template>
    <label v-else-if="wish.action === 'group'" class="field"
      ><span class="label">Group</span>
      <ChoiceField v-model="wish.groupId">
        <option :value="null">{{ choices.groups.length === 0 ? 'no group yet; make one under People' : 'choose one' }}</option>
        <option v-for="g in choices.groups" :key="g.id" :value="g.id">{{ g.title }}</option>
      </ChoiceField></label
    >
    <label v-else class="field"
      ><span class="label">Item</span>
      <ChoiceField v-model="wish.itemId">
        <option :value="null">choose one</option>
        <option v-for="i in choices.items" :key="i.id" :value="i.id">{{ i.title }}</option>
      </ChoiceField></label
    >
    <p>
      <label
        ><TickBox v-model="wish.isFromNow" />
        {{ isOfPoints ? 'only for results that come from now on' : 'only for those who give their last one from now on' }}</label
      >
    </p>
    <p class="soft">
      It happens once for each student{{ isOfPoints ? ', when the result is theirs to know,' : '' }} and can be taken back.
    </p>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p class="form-acts row-acts">
      <ActButton type="submit" look="go">Keep it</ActButton> <ActButton look="quiet" @click="emit('leave')">Leave it</ActButton>
    </p>
  </form>
</template>

<style scoped>
.form {
  padding: 20px 26px;
}
.line {
  display: flex;
  gap: 10px;
  align-items: baseline;
  margin: 10px 0;
}
.line label {
  display: flex;
  gap: 10px;
  align-items: baseline;
}
.field {
  margin-bottom: 8px;
}
</style>
