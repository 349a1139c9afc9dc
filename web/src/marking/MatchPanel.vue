<script setup lang="ts">
import type { MatchReport } from '@rosemary/api';
import { dayAndTime, countOf } from '@rosemary/core';
import { computed, onMounted, ref } from 'vue';
import { useCourse } from '../stores/courseStore.ts';
import ActButton from '../parts/ActButton.vue';

/** What of a work stands elsewhere, passage by passage beside its source: evidence, and nobody's verdict. */
const props = defineProps<{ read: () => Promise<MatchReport | null> }>();
const course = useCourse();
const report = ref<MatchReport | null>(null);
const isLoaded = ref(false);
const fault = ref('');
const at = ref(0);
async function load(): Promise<void> {
  isLoaded.value = false;
  fault.value = '';
  try {
    report.value = await props.read();
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
  at.value = 0;
  isLoaded.value = true;
}
onMounted(load);
const KINDS = { class: 'this class', earlier: 'an earlier term', collection: 'the collection' } as const;
const source = computed(() => report.value?.sources[at.value] ?? null);
interface Piece {
  readonly text: string;
  readonly run: number | null;
}
/** A text cut where its runs begin and end; overlapping runs count as the first of them. */
function pieces(text: string, places: readonly (readonly [from: number, to: number])[]): Piece[] {
  const cut: Piece[] = [];
  let from = 0;
  for (const [n, [start, end]] of [...places.entries()].sort(([, a], [, b]) => a[0] - b[0])) {
    if (end <= from) continue;
    const begin = Math.max(start, from);
    if (begin > from) cut.push({ text: text.slice(from, begin), run: null });
    cut.push({ text: text.slice(begin, end), run: n });
    from = end;
  }
  return [...cut, { text: text.slice(from), run: null }];
}
const own = computed(() =>
  report.value === null || source.value === null
    ? []
    : pieces(
        report.value.text,
        source.value.runs.map((r) => [r.from, r.to]),
      ),
);
const theirs = computed(() =>
  source.value?.text === null || source.value === null
    ? []
    : pieces(
        source.value.text,
        source.value.runs.map((r) => [r.sourceFrom, r.sourceTo]),
      ),
);
const figures = computed(() => {
  const f = report.value?.figures;
  if (!f) return '';
  const left = [f.quoted > 0 ? `${f.quoted} quoted` : '', f.ofTask > 0 ? `${f.ofTask} of the task` : '']
    .filter((w) => w !== '')
    .join(' and ');
  return `${f.matched} of the ${f.counted} words that count${left === '' ? '' : `; ${left} are left out`}`;
});
</script>

<template>
  <div class="matches">
    <p v-if="fault" class="fault">{{ fault }}</p>
    <div v-else-if="!isLoaded"><div v-for="n in 4" :key="n" class="skeleton" style="height: 16px; margin-top: 10px" /></div>
    <p v-else-if="report === null" class="soft">This work was not held against others yet.</p>
    <template v-else>
      <h3>
        {{ report.figures.percent === null ? 'No words to hold against others' : `${report.figures.percent} % stands elsewhere` }}
      </h3>
      <p class="soft">
        {{ figures }}. Looked at {{ dayAndTime(Date.parse(report.at), course.zone, course.now) }}. Words alike are evidence, not a verdict:
        read them in their place.
      </p>
      <p v-if="report.sources.length === 0" class="soft">No passage of eleven words or more stands in what it was held against.</p>
      <div v-else class="sources" role="tablist" aria-label="Where it stands">
        <ActButton
          v-for="(s, n) in report.sources"
          :key="n"
          role="tab"
          :aria-selected="n === at"
          :class="['chip', { on: n === at }]"
          @click="at = n"
        >
          {{ s.title }} <span class="label">{{ KINDS[s.kind] }}, {{ countOf(s.words, 'word') }}</span>
        </ActButton>
      </div>
      <div v-if="source" class="both">
        <section aria-label="This work">
          <p class="label">this work</p>
          <p class="text" tabindex="0">
            <template v-for="(p, n) in own" :key="n"
              ><mark v-if="p.run !== null">{{ p.text }}</mark
              ><template v-else>{{ p.text }}</template></template
            >
          </p>
        </section>
        <section aria-label="The source">
          <p class="label">{{ source.title }}</p>
          <p v-if="source.text === null" class="soft">Its text is not for you to read here.</p>
          <p v-else class="text" tabindex="0">
            <template v-for="(p, n) in theirs" :key="n"
              ><mark v-if="p.run !== null">{{ p.text }}</mark
              ><template v-else>{{ p.text }}</template></template
            >
          </p>
        </section>
      </div>
    </template>
  </div>
</template>

<style scoped>
.sources {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin: 10px 0;
}
.both {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 18px;
}
.text {
  white-space: pre-wrap;
  max-height: 46vh;
  overflow: auto;
  font-family: 'Literata Variable', serif;
  font-size: 14px;
  line-height: 21px;
}
/* On the dark of the chosen one the small words must be read too. */
.chip.on .label {
  color: inherit;
}
mark {
  background: var(--bloom-wash);
  color: inherit;
  border-bottom: 1.5px solid var(--bloom);
}
@media (max-width: 700px) {
  .both {
    grid-template-columns: 1fr;
  }
}
</style>
