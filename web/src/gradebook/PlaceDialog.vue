<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { BookColumn, Plan } from '@rosemary/api';
import { computed, onMounted, ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import PickMark from '../parts/fields/PickMark.vue';
import { call } from '../platform/call.ts';
import { useNotices } from '../stores/noticeStore.ts';

/** A column that stands in the gradebook alone becomes an item of the Plan; its results stay. */
const props = defineProps<{ courseId: string; column: BookColumn }>();
const emit = defineEmits<{ close: []; changed: [] }>();
const notices = useNotices();
const units = ref<Plan['units'] | null>(null);
const unitId = ref('');
const isHandedIn = ref(false);
const fault = ref('');
const open = computed(() => (units.value ?? []).filter((u) => !u.isStanding));
onMounted(async () => {
  try {
    ({ units: units.value } = await call(api.getPlan, { courseId: props.courseId }));
    unitId.value = open.value[0]?.id ?? '';
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
});
async function place(): Promise<void> {
  const { itemId, title } = props.column;
  if (itemId === null || unitId.value === '') return;
  try {
    const body = { unitId: unitId.value, isHandedIn: isHandedIn.value };
    const done = await call(api.placeGradeColumn, { courseId: props.courseId, itemId }, body, `Put “${title}” into the Plan`);
    if (done === null) return;
    emit('changed');
    emit('close');
    notices.say(`“${title}” stands in the Plan now, with its results.`, null);
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
</script>

<template>
  <v-dialog :model-value="true" width="480" @update:model-value="emit('close')">
    <form class="sheet pad" role="dialog" aria-label="Put into the Plan" @submit.prevent="place">
      <h2>Put “{{ column.title }}” into the Plan</h2>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <div v-if="!units && !fault" class="skeleton" style="height: 60px" />
      <p v-else-if="units && open.length === 0" class="soft">The Plan has no unit yet. Add one there first.</p>
      <template v-else-if="units">
        <div class="field">
          Unit
          <ChoiceField v-model="unitId" aria-label="Unit">
            <option v-for="u in open" :key="u.id" :value="u.id">{{ u.title }}</option>
          </ChoiceField>
        </div>
        <label class="choice-line"
          ><PickMark v-model="isHandedIn" name="as" :value="false" /> as a class activity, with nothing to hand in</label
        >
        <label class="choice-line"><PickMark v-model="isHandedIn" name="as" :value="true" /> as an assignment that students hand in</label>
        <p class="soft">The results that are there stay with it.</p>
      </template>
      <div class="form-acts">
        <ActButton v-if="open.length > 0" type="submit" look="go">Put into the Plan</ActButton>
        <ActButton look="quiet" @click="emit('close')">Cancel</ActButton>
      </div>
    </form>
  </v-dialog>
</template>
