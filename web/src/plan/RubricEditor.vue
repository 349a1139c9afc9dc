<script setup lang="ts">
import type { RubricView } from '@rosemary/api';
import { fitRubric, formatPoints, parsePoints, type PlainRubric } from '@rosemary/core';
import { computed, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import { HttpProblem, send } from '../platform/http.ts';
import ObjectivesField from '../objectives/ObjectivesField.vue';
import { useNotices } from '../shell/noticeStore.ts';
import { useRipple } from '../shell/rippleStore.ts';
import RubricShelf from './RubricShelf.vue';

interface Level {
  id: string | null;
  title: string;
  descriptor: string;
  points: string;
}
interface Criterion {
  id: string | null;
  title: string;
  levels: Level[];
}
const props = defineProps<{ base: string; title: string; rubric: RubricView | null; possible: number; canEdit: boolean }>();
const emit = defineEmits<{ saved: [rubric: RubricView | null] }>();
const notices = useNotices();
const ripple = useRipple();
const route = useRoute();
const isOpen = ref(false);
const draft = ref<Criterion[]>([]);
const fault = ref('');

function fill(): void {
  draft.value = (props.rubric?.criteria ?? []).map((c) => ({
    id: c.id,
    title: c.title,
    levels: c.levels.map((l) => ({ ...l, points: formatPoints(l.points) })),
  }));
}
watch(() => props.rubric, fill, { immediate: true });
const LEVELS = ['0', '3', '6', '10'];
function addCriterion(): void {
  draft.value.push({
    id: null,
    title: '',
    levels: LEVELS.map((points, n) => ({ id: null, title: String(n + 1), descriptor: '', points })),
  });
  isOpen.value = true;
}
function move(at: number, by: number): void {
  const [c] = draft.value.splice(at, 1);
  if (c) draft.value.splice(at + by, 0, c);
}
const best = (c: Criterion): number =>
  c.levels.reduce((most, l) => {
    const p = parsePoints(l.points);
    return p.ok ? Math.max(most, p.value) : most;
  }, 0);
const total = computed(() => draft.value.reduce((sum, c) => sum + best(c), 0));

/** The rubric at hand as it could be kept: what cannot be read as points is left out of it. */
const plain = computed(() =>
  draft.value
    .filter((c) => c.title.trim() !== '')
    .map((c) => ({
      title: c.title.trim(),
      levels: c.levels.map((l) => {
        const parsed = parsePoints(l.points);
        return { title: l.title, descriptor: l.descriptor, points: parsed.ok ? parsed.value : 0 };
      }),
    })),
);
function take(rubric: PlainRubric): void {
  const before = draft.value;
  draft.value = fitRubric(rubric.criteria, props.possible).map((c) => ({
    id: null,
    title: c.title,
    levels: c.levels.map((l) => ({ id: null, title: l.title, descriptor: l.descriptor, points: formatPoints(l.points) })),
  }));
  isOpen.value = true;
  if (before.length > 0)
    notices.say('The rubric is replaced here, and not saved yet.', () => {
      draft.value = before;
      return Promise.resolve();
    });
}
/** Its criteria keep their weights against each other, and add up to the points of the item. */
function fit(): void {
  const fitted = fitRubric(plain.value, props.possible);
  draft.value = draft.value.map((c, n) => ({
    ...c,
    levels: c.levels.map((l, m) => ({ ...l, points: formatPoints(fitted[n]?.levels[m]?.points ?? 0) })),
  }));
}
interface Saved {
  readonly rubric: RubricView | null;
  readonly followed: number;
  readonly kept: number;
}
const words = ({ followed, kept }: Saved): string =>
  [
    'The rubric is saved.',
    followed > 0 ? `${followed === 1 ? 'One finished mark follows' : `${followed} finished marks follow`} its points.` : '',
    kept > 0 ? `${kept === 1 ? 'One keeps its score' : `${kept} keep their score`}.` : '',
  ]
    .filter((w) => w !== '')
    .join(' ');
/** Puts a rubric in place, once whom it moves is seen; Undo puts back the one before. */
async function put(criteria: unknown, before: RubricView | null): Promise<void> {
  const path = `${props.base}/rubric`;
  const body = { version: props.rubric?.version ?? 0, criteria };
  if (!(await ripple.confirm('The points of the rubric', 'PUT', path, body))) return;
  const saved = await send<Saved>('PUT', path, body);
  emit('saved', saved.rubric);
  isOpen.value = false;
  notices.say(words(saved), async () => {
    const back = await send<Saved>('PUT', path, { version: saved.rubric?.version ?? 0, criteria: before?.criteria ?? [] });
    emit('saved', back.rubric);
  });
}
async function save(): Promise<void> {
  fault.value = '';
  const criteria = [];
  for (const c of draft.value) {
    const levels = [];
    for (const l of c.levels) {
      const parsed = parsePoints(l.points);
      if (!parsed.ok) {
        fault.value = `${c.title || 'A criterion'}, level ${l.title}: ${parsed.reason}`;
        return;
      }
      levels.push({ id: l.id, title: l.title, descriptor: l.descriptor, points: parsed.value });
    }
    criteria.push({ id: c.id, title: c.title, levels });
  }
  try {
    await put(criteria, props.rubric);
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not saved.';
  }
}
</script>

<template>
  <section class="rubric" aria-label="Rubric">
    <div class="head">
      <h2>Rubric</h2>
      <span class="soft">{{
        draft.length === 0 ? 'none; the score is typed' : `${draft.length} criteria, ${formatPoints(total)} points`
      }}</span><span v-if="draft.length > 0 && total !== possible" class="clay"
        >the item has {{ formatPoints(possible) }}
        <button v-if="isOpen && plain.length === draft.length" type="button" class="act" @click="fit">fit it</button></span
      ><button v-if="canEdit && !isOpen" class="act end" @click="draft.length === 0 ? addCriterion() : (isOpen = true)">
        {{ draft.length === 0 ? 'Make one' : 'Change' }}
      </button>
    </div>
    <RubricShelf v-if="canEdit && (isOpen || draft.length === 0)" :criteria="isOpen ? plain : []" :title="title" @take="take" />
    <table v-if="!isOpen && draft.length > 0" class="plain">
      <tbody>
        <tr v-for="c in draft" :key="c.title">
          <td style="width: 120px">
            <b>{{ c.title }}</b>
          </td>
          <td v-for="l in c.levels" :key="l.title">
            <b>{{ l.points }}</b><br /><span class="soft">{{ l.descriptor }}</span>
          </td>
        </tr>
      </tbody>
    </table>
    <form v-else-if="isOpen" @submit.prevent="save">
      <div v-for="(c, n) in draft" :key="n" class="criterion">
        <div class="head">
          <input
            v-model="c.title"
            class="line-input"
            maxlength="120"
            placeholder="Criterion"
            :aria-label="`Criterion ${n + 1}`"
            required
          /><button type="button" class="act" :disabled="n === 0" @click="move(n, -1)">up</button
          ><button type="button" class="act" :disabled="n === draft.length - 1" @click="move(n, 1)">down</button
          ><button type="button" class="act" @click="draft.splice(n, 1)">take away</button>
        </div>
        <div class="levels">
          <div v-for="(l, m) in c.levels" :key="m">
            <input v-model="l.points" class="line-input" inputmode="decimal" :aria-label="`Points of level ${m + 1}`" /><textarea
              v-model="l.descriptor"
              class="line-input"
              rows="3"
              maxlength="600"
              :aria-label="`What level ${m + 1} looks like`"
              placeholder="what it looks like"
            /><button v-if="c.levels.length > 2" type="button" class="act small" @click="c.levels.splice(m, 1)">less</button>
          </div>
          <button
            v-if="c.levels.length < 8"
            type="button"
            class="act small"
            @click="c.levels.push({ id: null, title: String(c.levels.length + 1), descriptor: '', points: '10' })"
          >
            + level
          </button>
        </div>
        <ObjectivesField
          v-if="c.id"
          :course-id="String(route.params.courseId)"
          :owner="`criteria/${c.id}`"
          :label="`Objectives of ${c.title}`"
          :can-edit="canEdit"
        />
      </div>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <button type="button" class="quiet" @click="addCriterion">+ criterion</button> <button class="go">Save the rubric</button>
      <button
        type="button"
        class="quiet"
        @click="
          fill();
          isOpen = false;
        "
      >
        Leave it
      </button>
    </form>
  </section>
</template>

<style scoped>
.rubric {
  margin-top: 30px;
  border-top: 1px solid var(--frost);
  padding-top: 14px;
}
.head {
  display: flex;
  gap: 14px;
  align-items: baseline;
  margin-bottom: 6px;
}
.end {
  margin-left: auto;
}
.criterion {
  padding: 8px 0;
  border-top: 1px solid var(--frost2);
}
.levels {
  display: flex;
  gap: 10px;
}
.levels > div {
  flex: 1;
}
.small {
  font-size: 13px;
}
textarea {
  resize: vertical;
  font-size: 13px;
  line-height: 17px;
}
</style>
