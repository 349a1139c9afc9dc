<script setup lang="ts">
import type { ArrangementChange, RosterMember } from '@rosemary/api';
import { arrangementInWords, parsePoints } from '@rosemary/core';
import { computed, ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import LineField from '../parts/fields/LineField.vue';

const props = defineProps<{
  member: RosterMember;
  canEdit: boolean;
  save: (arrangements: readonly ArrangementChange[]) => Promise<boolean>;
}>();
const isOpen = ref(false);
const days = ref('');
const time = ref('');
const attempts = ref('');
const reason = ref('');
const fault = ref('');
const name = computed(() => `${props.member.givenName} ${props.member.familyName}`);

function read(): ArrangementChange | string {
  const whole = (text: string, most: number, what: string): number | string => {
    const clean = text.trim() === '' ? '0' : text.trim();
    return /^\d{1,3}$/.test(clean) && Number(clean) <= most
      ? Number(clean)
      : `${what}: “${clean}” is not a whole number from 0 to ${most}.`;
  };
  const extraDays = whole(days.value, 60, 'More days');
  const extraAttempts = whole(attempts.value, 10, 'More attempts');
  const multiplier = parsePoints(time.value.trim() === '' ? '1' : time.value);
  if (typeof extraDays === 'string') return extraDays;
  if (typeof extraAttempts === 'string') return extraAttempts;
  if (!multiplier.ok || multiplier.value < 1000 || multiplier.value > 4000 || multiplier.value % 10 !== 0)
    return `Time: “${time.value}” is not a factor from 1 to 4 with at most two decimals, such as 1.25.`;
  if (extraDays === 0 && extraAttempts === 0 && multiplier.value === 1000)
    return 'Say what is arranged: more days, more time or more attempts.';
  return { extraDays, extraAttempts, timeMultiplier: multiplier.value, reason: reason.value.trim() };
}
async function add(): Promise<void> {
  const next = read();
  if (typeof next === 'string') {
    fault.value = next;
    return;
  }
  fault.value = '';
  if (await props.save([...props.member.arrangements, next])) {
    isOpen.value = false;
    days.value = time.value = attempts.value = reason.value = '';
  }
}
</script>

<template>
  <ul class="list bare-list">
    <li v-for="(a, n) in member.arrangements" :key="n" class="soft">
      {{ arrangementInWords(a) }}
      <ActButton
        v-if="canEdit"
        look="act"
        :aria-label="`Remove from ${name}: ${arrangementInWords(a)}`"
        @click="save(member.arrangements.filter((_, m) => m !== n))"
        >Remove</ActButton
      >
    </li>
    <li v-if="canEdit && !isOpen">
      <ActButton look="act" :aria-label="`Arrange something for ${name}`" @click="isOpen = true">arrange</ActButton>
    </li>
  </ul>
  <form v-if="isOpen" class="form" :aria-label="`Arrangement for ${name}`" @submit.prevent="add">
    <label><span class="label">more days</span><LineField v-model="days" inputmode="numeric" takes-focus /></label>
    <label><span class="label">time ×</span><LineField v-model="time" inputmode="decimal" placeholder="1" /></label>
    <label><span class="label">more attempts</span><LineField v-model="attempts" inputmode="numeric" /></label>
    <label class="why"><span class="label">reason, for staff</span><LineField v-model="reason" maxlength="200" /></label>
    <span><ActButton type="submit" look="go">Arrange</ActButton> <ActButton look="quiet" @click="isOpen = false">Leave it</ActButton></span>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
  </form>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: 60px 60px 90px;
  gap: 6px 12px;
  padding: 6px 0;
}
.why,
.form > span,
.fault {
  grid-column: 1 / -1;
}
</style>
