<script setup lang="ts">
import { QTI_VERSIONS, type QtiVersion } from '@rosemary/core';
import { computed, ref, watch } from 'vue';
import { HttpProblem } from '../platform/http.ts';
import PickMark from '../parts/fields/PickMark.vue';
import ActButton from '../parts/ActButton.vue';

/** Questions or a quiz as a package that other software reads, with what it has no words for; questions as a table too. */
const props = defineProps<{
  heading: string;
  /** The package as it would be in a version: what it loses, and where it is fetched. */
  look: (version: QtiVersion) => Promise<{ readonly losses: readonly string[]; readonly items: number }>;
  url: (version: QtiVersion) => string;
  csv: string | null;
}>();
const emit = defineEmits<{ leave: [] }>();
const version = ref<QtiVersion>('3.0');
const found = ref<{ losses: readonly string[]; items: number } | null>(null);
const fault = ref('');
const asked = computed(() => props.url(version.value));
watch(
  asked,
  async (url) => {
    [found.value, fault.value] = [null, ''];
    try {
      const answer = await props.look(version.value);
      if (url === asked.value) found.value = answer;
    } catch (error) {
      fault.value = error instanceof HttpProblem ? error.message : 'The package could not be looked at.';
    }
  },
  { immediate: true },
);
</script>

<template>
  <div class="sheet form" role="dialog" :aria-label="heading">
    <h2>{{ heading }}</h2>
    <p class="soft">
      A package after the open standard QTI (1EdTech), which other software for tests can read. Imported into Rosemary again it loses
      nothing.
    </p>
    <p class="versions" role="radiogroup" aria-label="Version">
      <label v-for="v in QTI_VERSIONS.toReversed()" :key="v"><PickMark v-model="version" name="version" :value="v" /> QTI {{ v }}</label>
    </p>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <div v-else-if="!found" class="skeleton" style="height: 64px" />
    <template v-else>
      <p v-if="found.losses.length === 0">
        {{ found.items === 1 ? 'One question' : `${found.items} questions` }}; the standard has words for all that is in them.
      </p>
      <template v-else>
        <p>
          {{ found.items === 1 ? 'One question' : `${found.items} questions` }}. The standard has no words for this, so other software will
          not know it:
        </p>
        <ul class="losses">
          <li v-for="l in found.losses" :key="l">{{ l }}</li>
        </ul>
      </template>
    </template>
    <p class="acts">
      <a v-if="found" class="go" :href="asked" download>Export the package</a>
      <a v-if="csv" class="quiet" :href="csv" download>Download CSV</a>
      <ActButton look="quiet" @click="emit('leave')">Leave it</ActButton>
    </p>
  </div>
</template>

<style scoped>
.versions {
  display: flex;
  gap: 18px;
  margin: 12px 0;
}
.losses {
  max-height: 220px;
  overflow: auto;
  padding-left: 18px;
  margin-top: 6px;
}
.acts a {
  text-decoration: none;
}
.acts {
  margin-top: 14px;
  display: flex;
  gap: 10px;
}
</style>
