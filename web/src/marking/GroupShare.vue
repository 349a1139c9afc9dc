<script setup lang="ts">
import type { Adjustments, MarkedGroup } from '@rosemary/api';
import { formatPoints, parsePoints } from '@rosemary/core';
import { computed, ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';
import FloatMenu from '../parts/FloatMenu.vue';
import LineField from '../parts/fields/LineField.vue';

/** One mark for a group, and what is more or less for one of them, with its reason. */
const props = defineProps<{ group: MarkedGroup; adjustments: Adjustments; total: number | null }>();
const emit = defineEmits<{ change: [adjustments: Adjustments] }>();
const fault = ref('');
const many = computed(() => Object.values(props.adjustments).filter((a) => a.points !== 0).length);
const signed = (points: number): string => (points === 0 ? '' : `${points > 0 ? '+' : '−'}${formatPoints(Math.abs(points))}`);
function set(enrolmentId: string, change: { points?: number; reason?: string }): void {
  const before = props.adjustments[enrolmentId] ?? { points: 0, reason: '' };
  emit('change', { ...props.adjustments, [enrolmentId]: { ...before, ...change } });
}
function setPoints(enrolmentId: string, typed: string): void {
  fault.value = '';
  const text = typed.trim().replace('−', '-');
  const parsed = parsePoints(text.replace(/^[+-]/, '') || '0');
  if (!parsed.ok) fault.value = parsed.reason;
  else set(enrolmentId, { points: text.startsWith('-') ? -parsed.value : parsed.value });
}
const own = (enrolmentId: string): string =>
  props.total === null ? '–' : formatPoints(Math.max(0, props.total + (props.adjustments[enrolmentId]?.points ?? 0)));
</script>

<template>
  <FloatMenu stays
    ><template #activator="{ props: p }"
      ><ActButton v-bind="p" look="quiet">{{ many === 0 ? `All ${group.members.length} alike` : `${many} otherwise` }}</ActButton></template
    >
    <div class="sheet pad share">
      <p class="soft">{{ group.title }}: one mark for all. More or less for one of them has its reason, which they see.</p>
      <PlainTable>
        <thead>
          <tr>
            <th>who</th>
            <th>more or less</th>
            <th>reason</th>
            <th class="num">gets</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="m in group.members" :key="m.enrolmentId">
            <td>{{ m.name }}</td>
            <td>
              <LineField
                class="points"
                inputmode="decimal"
                placeholder="0"
                :aria-label="`More or less for ${m.name}`"
                :model-value="signed(adjustments[m.enrolmentId]?.points ?? 0)"
                @change="setPoints(m.enrolmentId, ($event.target as HTMLInputElement).value)"
              />
            </td>
            <td>
              <LineField
                maxlength="600"
                :aria-label="`Reason for ${m.name}`"
                :model-value="adjustments[m.enrolmentId]?.reason ?? ''"
                @input="set(m.enrolmentId, { reason: ($event.target as HTMLInputElement).value })"
              />
            </td>
            <td class="num">{{ own(m.enrolmentId) }}</td>
          </tr>
        </tbody>
      </PlainTable>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    </div></FloatMenu
  >
</template>

<style scoped>
.share {
  width: 520px;
}
.points {
  width: 70px;
  text-align: right;
}
</style>
