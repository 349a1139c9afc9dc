<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { paragraphs, type AnswerEntry, type AnswerList, type MarkedTogether, type RubricView } from '@rosemary/api';
import { formatPoints, parsePoints, rubricScore, type AlikeGroup } from '@rosemary/core';
import { computed, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useNotices } from '../stores/noticeStore.ts';
import CriterionStep from './CriterionStep.vue';
import { useAlikeGroups } from './useAlikeGroups.ts';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';
import TickBox from '../parts/fields/TickBox.vue';
import LineField from '../parts/fields/LineField.vue';

/** Short answers that say the same stand together and are judged together; whoever is an exception is taken out first. */
const props = defineProps<{ base: { readonly courseId: string; readonly itemId: string }; itemId: string; possible: number }>();
const emit = defineEmits<{ done: [] }>();
const route = useRoute();
const notices = useNotices();
const list = ref<AnswerList | null>(null);
const { groups, group } = useAlikeGroups();
const rubric = ref<RubricView | null>(null);
const fault = ref('');
const open = ref<number | null>(null);
const left = ref<ReadonlySet<string>>(new Set());
const judgement = ref<{ choices: Record<string, string>; given: Record<string, number>; score: string; feedback: string }>({
  ...{ choices: {}, given: {}, score: '', feedback: '' },
});
const at = ref(0);
const isBusy = ref(false);
const results = ref<MarkedTogether | null>(null);
async function load(): Promise<void> {
  try {
    const detail = await call(api.getItem, { courseId: String(route.params.courseId), itemId: props.itemId });
    rubric.value = detail.assignment?.judged === 'points' ? detail.rubric : null;
    list.value = await call(api.getAnswers, props.base);
    group(list.value.answers.map((a) => ({ id: a.id, text: a.text })));
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
onMounted(load);
const byId = computed(() => new Map((list.value?.answers ?? []).map((a) => [a.id, a])));
const membersOf = (group: AlikeGroup): readonly AnswerEntry[] => [...group.same, ...group.near].flatMap((id) => byId.value.get(id) ?? []);
const isDone = (answer: AnswerEntry): boolean => answer.state === 'finished' || answer.state === 'released';
function openGroup(n: number): void {
  open.value = open.value === n ? null : n;
  left.value = new Set(
    membersOf(groups.value?.[n] ?? { text: '', same: [], near: [] })
      .filter(isDone)
      .map((a) => a.id),
  );
  judgement.value = { choices: {}, given: {}, score: '', feedback: '' };
  results.value = null;
  fault.value = '';
}
function turn(id: string): void {
  const next = new Set(left.value);
  if (!next.delete(id)) next.add(id);
  left.value = next;
}
const criteria = computed(() => rubric.value?.criteria ?? []);
const total = computed(() => {
  if (criteria.value.length > 0) return rubricScore(criteria.value, judgement.value.choices, judgement.value.given).score;
  const parsed = parsePoints(judgement.value.score);
  return parsed.ok ? parsed.value : null;
});
function choose(n: number, digit: number): void {
  const criterion = criteria.value[n];
  const level = criterion?.levels[digit - 1];
  if (criterion && level) judgement.value = { ...judgement.value, choices: { ...judgement.value.choices, [criterion.id]: level.id } };
}
function give(id: string, value: number | null): void {
  const given = { ...judgement.value.given };
  if (value === null) delete given[id];
  else given[id] = value;
  judgement.value = { ...judgement.value, given };
}
async function mark(group: AlikeGroup, finishes: boolean): Promise<void> {
  const workIds = membersOf(group)
    .map((a) => a.id)
    .filter((id) => !left.value.has(id));
  fault.value = '';
  let score: number | null = null;
  if (criteria.value.length === 0) {
    const parsed = parsePoints(judgement.value.score);
    if (!parsed.ok) {
      fault.value = parsed.reason;
      return;
    }
    score = parsed.value;
  }
  isBusy.value = true;
  try {
    const said = judgement.value.feedback.trim();
    results.value = await call(api.markTogether, props.base, {
      ...{ workIds, choices: judgement.value.choices, given: judgement.value.given, score, scoreReason: '' },
      ...{ feedback: said === '' ? null : paragraphs(said), finishes, overFinished: false },
    });
    const finished = results.value.rows.filter((r) => r.outcome === 'finished').length;
    const kept = results.value.rows.filter((r) => r.outcome === 'kept').length;
    notices.say(`${finished} finished together${kept > 0 ? `, ${kept} kept as drafts` : ''}.`);
    emit('done');
    await load();
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not marked. Try again.';
  } finally {
    isBusy.value = false;
  }
}
const problems = computed(() => (results.value?.rows ?? []).filter((r) => r.reason !== ''));
</script>

<template>
  <section class="part" aria-label="Alike answers">
    <h3>Alike answers</h3>
    <p v-if="fault && open === null" class="fault">{{ fault }}</p>
    <div v-if="groups === null && !fault" class="skeleton" style="height: 40px" />
    <p v-else-if="list && list.answers.length === 0" class="soft">
      Short answers, of sixty words at most, stand together here when they say the same.
      {{ list.longer > 0 ? `The ${list.longer} works handed in are longer: they are marked one by one.` : 'Nothing is handed in yet.' }}
    </p>
    <ol v-else-if="groups && list" class="groups">
      <li v-for="(g, n) in groups" :key="n">
        <ActButton class="line" :aria-expanded="open === n" @click="openGroup(n)">
          <b class="many">{{ g.same.length + g.near.length }}</b>
          <span class="text">{{ g.text === '' ? 'nothing written' : g.text }}</span>
          <span class="label"
            >{{ g.near.length > 0 ? `${g.same.length} the same, ${g.near.length} nearly; ` : ''
            }}{{ membersOf(g).filter(isDone).length }} finished</span
          >
        </ActButton>
        <div v-if="open === n" class="inner">
          <div class="judge">
            <CriterionStep
              v-for="(c, m) in criteria"
              :key="c.id"
              :criterion="c"
              :choice="judgement.choices[c.id]"
              :given="judgement.given[c.id]"
              comment=""
              :is-now="m === at"
              :notes="0"
              @now="at = m"
              @choose="choose(m, $event)"
              @give="give(c.id, $event)"
            />
            <label v-if="criteria.length === 0" class="field"
              ><span class="label">Score of {{ formatPoints(possible) }}</span
              ><LineField v-model="judgement.score" class="score" inputmode="decimal"
            /></label>
            <label class="field words"
              ><span class="label">Feedback to each of them</span><LineField v-model="judgement.feedback" maxlength="4000"
            /></label>
          </div>
          <p>
            <ActButton look="go" :disabled="isBusy || total === null || left.size === membersOf(g).length" @click="mark(g, true)">
              Finish {{ membersOf(g).length - left.size }} together
            </ActButton>
            <ActButton look="quiet" :disabled="isBusy || left.size === membersOf(g).length" @click="mark(g, false)"
              >Keep as drafts</ActButton
            >
            <span class="soft">Whoever is not ticked is left as they are.</span>
          </p>
          <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
          <ul v-if="problems.length > 0" class="fault">
            <li v-for="p in problems" :key="p.id">{{ p.name }}: {{ p.reason }}</li>
          </ul>
          <PlainTable>
            <tbody>
              <tr v-for="a in membersOf(g)" :key="a.id">
                <td>
                  <label><TickBox :model-value="!left.has(a.id)" @change="turn(a.id)" /> {{ a.name }}</label>
                </td>
                <td :class="{ soft: g.same.includes(a.id) }">{{ a.text }}</td>
                <td class="soft">{{ a.state }}{{ a.scoreText && isDone(a) ? `, ${a.scoreText}` : '' }}</td>
              </tr>
            </tbody>
          </PlainTable>
        </div>
      </li>
    </ol>
    <p v-if="list && list.answers.length > 0 && list.longer > 0" class="soft">{{ list.longer }} longer works are marked one by one.</p>
  </section>
</template>

<style scoped>
.groups {
  list-style: none;
  padding: 0;
  margin: 6px 0;
}
.line {
  display: grid;
  grid-template-columns: 36px 1fr auto;
  gap: 10px;
  width: 100%;
  text-align: left;
  border: 0;
  border-bottom: 1px solid var(--frost2);
  background: none;
  font: inherit;
  color: inherit;
  padding: 5px 0;
  cursor: pointer;
}
.line:hover {
  background: var(--frost2);
}
.many {
  text-align: right;
}
.text {
  font-family: 'Literata Variable', serif;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.inner {
  padding: 8px 0 14px 46px;
}
.judge {
  display: flex;
  gap: 22px;
  padding: 12px 0;
  align-items: start;
}
.score {
  width: 90px;
}
.words {
  flex: 1;
  max-width: 420px;
}
</style>
