<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { ReleasePreview } from '@rosemary/api';
import { computed, onMounted, ref } from 'vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import PlainTable from '../parts/PlainTable.vue';
import ActButton from '../parts/ActButton.vue';
import { countOf } from '@rosemary/core';

/** Who would see what, before anything is released. */
const props = defineProps<{
  base: { readonly courseId: string; readonly itemId: string };
  waits: number;
  chosen?: readonly string[] | null;
}>();
const emit = defineEmits<{ close: []; release: [] }>();
const preview = ref<ReleasePreview | null>(null);
const fault = ref('');
onMounted(async () => {
  try {
    preview.value = await call(api.previewRelease, props.base, { enrolmentIds: props.chosen ?? null });
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'What would be seen could not be read. Try again.';
  }
});
const many = computed(() => preview.value?.students.length ?? 0);
</script>

<template>
  <v-dialog :model-value="true" @update:model-value="emit('close')"
    ><div class="sheet pad">
      <h2>Release {{ many }} {{ many === 1 ? 'finished mark' : 'finished marks' }}</h2>
      <p v-if="fault" class="fault">{{ fault }}</p>
      <template v-if="preview">
        <p>
          Each student below sees this at once{{ preview.showsNames ? '' : ', and is known by name from then on' }}.
          {{ waits > 0 ? `${countOf(waits, 'work still waits and is', 'works still wait and are')} not touched.` : '' }}
        </p>
        <div class="list" tabindex="0" role="region" aria-label="Who sees what">
          <PlainTable>
            <thead>
              <tr>
                <th>who</th>
                <th></th>
                <th class="num">score</th>
                <th>with it</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="s in preview.students" :key="s.name">
                <td>{{ s.name }}</td>
                <td class="soft">{{ s.section }}</td>
                <td class="num">{{ s.score }}</td>
                <td class="soft">
                  {{
                    [
                      s.hasRubric ? 'criteria' : '',
                      s.notes > 0 ? (s.notes === 1 ? '1 note' : `${s.notes} notes`) : '',
                      s.hasFeedback ? 'feedback' : '',
                    ]
                      .filter((w) => w !== '')
                      .join(', ') || 'the score alone'
                  }}
                </td>
              </tr>
            </tbody>
          </PlainTable>
        </div>
        <p v-if="preview.held.length > 0" class="soft">Taken up again and not finished, so they stay: {{ preview.held.join(', ') }}.</p>
      </template>
      <div v-else-if="!fault"><div v-for="n in 5" :key="n" class="skeleton" style="height: 18px; margin-top: 8px" /></div>
      <p style="padding-top: 14px">
        <ActButton look="go" :disabled="many === 0" @click="emit('release')"
          >Release {{ many }} {{ many === 1 ? 'mark' : 'marks' }}</ActButton
        >
        <ActButton look="quiet" @click="emit('close')">Leave it</ActButton>
        <span class="soft">A released mark can be taken back, one by one.</span>
      </p>
    </div></v-dialog
  >
</template>

<style scoped>
.list {
  max-height: 46vh;
  overflow: auto;
}
</style>
