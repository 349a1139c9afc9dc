<script setup lang="ts">
import { sizeInWords, numberInWords } from '@rosemary/core';
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import { computed, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import FileDrop from '../parts/media/FileDrop.vue';
import ItemGlyph from '../parts/ItemGlyph.vue';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useBringing } from './useBringing.ts';
import FoldOut from '../parts/FoldOut.vue';
import ActButton from '../parts/ActButton.vue';

/** A whole course as a file, out and in: everything it is made of, and nobody's work. */
const route = useRoute();
const course = useCourse();
const courseId = computed(() => String(route.params.courseId));
const canEdit = computed(() => course.head?.role === 'instructor');
const { file, share, fault, preview, done, look, bring, drop, cancel } = useBringing(courseId);
const losses = ref<readonly string[] | null>(null);
const lossFault = ref('');
onMounted(async () => {
  try {
    losses.value = (await call(api.getCartridgeLosses, { courseId: courseId.value })).losses;
  } catch (error) {
    lossFault.value = error instanceof Error ? error.message : '';
  }
});

const many = (n: number, one: string, more: string): string => (n === 1 ? `1 ${one}` : `${numberInWords(n)} ${more}`);
const items = computed(() => preview.value?.items ?? 0);
const weight = computed(() => {
  return sizeInWords(preview.value?.bytes ?? 0);
});
</script>

<template>
  <div class="pad">
    <div v-if="!canEdit && course.head" class="soft">A course is exported and imported by its instructor.</div>
    <div v-else class="columns">
      <section>
        <h2>Take this course out</h2>
        <p class="soft">What it is made of, and nothing of its people.</p>
        <h3>As Rosemary’s archive</h3>
        <p>Loses nothing: units, items, texts, rubrics, dates, rules, files, objectives, the policy. To keep, or to import again.</p>
        <p><a class="act" :href="urlOf(api.getArchive, { courseId })" download>Export the archive</a></p>
        <h3>As an open package</h3>
        <p>A Common Cartridge 1.3 (1EdTech), which other software for courses can read.</p>
        <p><a class="act" :href="urlOf(api.getCartridge, { courseId })" download>Export the package</a></p>
        <p v-if="lossFault" class="fault">{{ lossFault }}</p>
        <div v-else-if="!losses" class="skeleton" style="height: 80px" />
        <FoldOut v-else>
          <template #summary>{{ many(losses.length, 'thing has', 'things have') }} no place in a package</template>
          <ul>
            <li v-for="l in losses" :key="l">{{ l }}</li>
          </ul>
        </FoldOut>
      </section>

      <section>
        <h2>Import a package</h2>
        <p class="soft">An archive of Rosemary, or a Common Cartridge. It is read and shown first, and stands beside what is here.</p>
        <FileDrop
          words="Choose a package…"
          hint="or let one fall here (.zip, .imscc)"
          accept=".zip,.imscc,application/zip"
          :share="share"
          :doing="preview ? 'being taken in' : 'being read'"
          :fault="fault"
          :is-hidden="preview !== null"
          @choose="look"
          @cancel="cancel"
        />

        <div v-if="preview" class="coming">
          <h3>{{ preview.title }}</h3>
          <p class="label">{{ file?.name }} · {{ preview.kind === 'archive' ? 'Rosemary’s archive' : 'Common Cartridge' }}</p>
          <p>
            {{ many(items, 'item', 'items') }} in {{ many(preview.units.length, 'unit', 'units') }},
            {{ many(preview.files, 'file', 'files') }} ({{ weight }}).
            {{ preview.kind === 'cartridge' ? 'Everything comes as a draft: a package has no dates.' : '' }}
          </p>
          <div v-if="preview.problems.length > 0" class="known" role="status">
            <p>
              <b>{{ many(preview.problems.length, 'thing', 'things') }} to know before:</b>
            </p>
            <ul>
              <li v-for="(p, n) in preview.problems" :key="n">{{ p }}</li>
            </ul>
          </div>
          <p v-else class="soft">Nothing in it is left out.</p>
          <p class="acts">
            <ActButton look="go" :disabled="share !== null || (items === 0 && preview.files === 0)" @click="bring">
              {{ preview.problems.length > 0 ? 'Import the rest' : 'Import it' }}
            </ActButton>
            <ActButton look="act" :disabled="share !== null" @click="drop">leave it</ActButton>
          </p>
          <ul class="units">
            <li v-for="(u, n) in preview.units" :key="n">
              <span class="serif">{{ u.title }}</span>
              <ul>
                <li v-for="(i, k) in u.items" :key="k"><ItemGlyph :kind="i.kind" /> {{ i.title }}</li>
              </ul>
            </li>
          </ul>
        </div>

        <div v-if="done" role="status" class="known report">
          <p>
            {{ many(done.itemIds.length, 'item', 'items') }} in {{ many(done.unitIds.length, 'unit', 'units') }} and
            {{ many(done.files, 'file', 'files') }} came in.
            <router-link :to="{ name: 'plan', params: { courseId } }">To the Plan</router-link> ·
            <router-link :to="{ name: 'dates', params: { courseId } }">Fit its dates to this term</router-link>
          </p>
          <template v-if="done.problems.length > 0">
            <p>{{ many(done.problems.length, 'thing', 'things') }} to know:</p>
            <ul>
              <li v-for="(p, n) in done.problems" :key="n">{{ p }}</li>
            </ul>
          </template>
        </div>
      </section>
    </div>
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 7fr);
  gap: 56px;
}
h3 {
  margin: 18px 0 2px;
  font-size: 16px;
  line-height: 22px;
}
p {
  margin: 4px 0;
}
.known {
  border-left: 3px solid var(--straw);
  padding-left: 12px;
  margin: 10px 0;
}
.report {
  border-color: var(--leaf);
}
.known ul,
details ul {
  margin: 4px 0;
  padding-left: 18px;
}
.acts {
  display: flex;
  gap: 20px;
  align-items: center;
  margin: 14px 0;
}
.units,
.units ul {
  list-style: none;
  padding: 0;
  margin: 0;
}
.units > li {
  border-top: 1px solid var(--frost);
  padding: 6px 0;
}
.units li li {
  padding: 2px 0 2px 16px;
}
.unit {
  font-family: var(--serif);
}
</style>
