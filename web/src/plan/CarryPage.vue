<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { CarryDone, CarryPreview, CarryWish } from '@rosemary/api';
import { watchDebounced } from '@vueuse/core';
import { computed, onMounted, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import ItemGlyph from '../parts/ItemGlyph.vue';
import { call, takeBack as putBack } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import { useSession } from '../stores/sessionStore.ts';
import ActButton from '../parts/ActButton.vue';
import TickBox from '../parts/fields/TickBox.vue';
import PlainTable from '../parts/PlainTable.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';

type How = CarryWish['again'][number]['how'];
const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
const route = useRoute();
const course = useCourse();
const session = useSession();
const notices = useNotices();
const courseId = computed(() => String(route.params.courseId));
const sources = computed(() => session.me?.courses.filter((c) => c.role === 'instructor' && c.id !== courseId.value) ?? []);
const fromId = ref('');
const hasDates = ref(true);
const hasPolicy = ref(false);
const weekdays = ref<Record<number, number>>({});
const chosen = ref<ReadonlySet<string>>(new Set());
const again = ref<Record<string, How>>({});
const preview = ref<CarryPreview | null>(null);
const done = ref<CarryDone | null>(null);
const fault = ref('');
const isBusy = ref(false);
const all = computed(() => preview.value?.units.flatMap((u) => u.items) ?? []);
const wish = computed((): CarryWish => ({
  fromCourseId: fromId.value,
  itemIds: [...chosen.value],
  hasPolicy: hasPolicy.value && preview.value?.policy.refused === null,
  hasDates: hasDates.value,
  weekdays: Object.entries(weekdays.value).map(([from, to]) => ({ from: Number(from), to })),
  again: Object.entries(again.value).map(([itemId, how]) => ({ itemId, how })),
}));

let turn = 0;
/** The course whose items are chosen from; another one is chosen whole when its first answer comes. */
let offered = '';
/** Every choice shows anew what it would do; only the latest answer counts. */
async function look(): Promise<void> {
  if (fromId.value === '') return;
  const mine = ++turn;
  fault.value = '';
  try {
    const next = await call(api.previewCarrying, { courseId: courseId.value }, wish.value);
    if (mine !== turn) return;
    preview.value = next;
    if (offered !== fromId.value) {
      offered = fromId.value;
      const all = next.units.flatMap((u) => u.items.map((i) => i.id));
      // Some items of a Plan chosen to be copied here: those alone, and the choice is still open.
      const wished = typeof route.query.items === 'string' ? new Set(route.query.items.split(',')) : null;
      chosen.value = new Set(wished === null ? all : all.filter((id) => wished.has(id)));
      again.value = {};
      // A course that begins from another begins with its policy: without it every grade would count nothing.
      hasPolicy.value = next.policy.isUnused && wished === null;
    }
  } catch (error) {
    if (mine === turn) fault.value = error instanceof Error ? error.message : '';
  }
}
watch(fromId, () => {
  offered = '';
  preview.value = null;
  done.value = null;
  chosen.value = new Set();
  void look();
});
/** A course just made from another one comes here with it chosen. */
onMounted(() => {
  if (sources.value.some((s) => s.id === route.query.from)) fromId.value = String(route.query.from);
});
watchDebounced([hasDates, weekdays, chosen, again], () => look(), { deep: true, debounce: 150 });
function toggle(ids: readonly string[], isOn: boolean): void {
  const next = new Set(chosen.value);
  for (const id of ids)
    if (isOn) next.add(id);
    else next.delete(id);
  chosen.value = next;
}
const coming = computed(() =>
  all.value.filter((i) => chosen.value.has(i.id) && (i.existing === null || (again.value[i.id] ?? 'skip') !== 'skip')),
);
const unplaced = computed(() => coming.value.reduce((sum, i) => sum + i.dates.filter((d) => d.note.startsWith('not placed')).length, 0));
const moved = computed(() => coming.value.reduce((sum, i) => sum + i.dates.filter((d) => d.note.startsWith('moved')).length, 0));
const plural = (n: number, one: string, many: string): string => `${n === 0 ? 'no' : n} ${n === 1 ? one : many}`;

async function bring(): Promise<void> {
  isBusy.value = true;
  fault.value = '';
  try {
    const made = await call(api.carryItems, { courseId: courseId.value }, wish.value);
    done.value = made;
    void course.load(courseId.value);
    hasPolicy.value = false;
    const items = `${plural(made.itemIds.length, 'item is', 'items are')} copied, as drafts.`;
    notices.say(made.policy === null ? items : `The policy is taken over; ${items}`, () => takeBack(made));
    await look();
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  } finally {
    isBusy.value = false;
  }
}
async function takeBack(made: CarryDone): Promise<void> {
  const base = { courseId: courseId.value };
  const words = 'Without what was carried forward';
  if (made.itemIds.length > 0 && (await call(api.removeItems, base, { itemIds: made.itemIds }, words)) === null) return;
  if (made.replacedIds.length > 0) await putBack(api.removeItems, base, { itemIds: made.replacedIds });
  for (const unitId of made.unitIds) await call(api.removeUnit, { ...base, unitId }, undefined, words);
  if (made.policy !== null) {
    const { before, after } = made.policy;
    const known = new Set(after.categories.map((c) => c.id));
    const categories = before.categories.map((c) => (known.has(c.id) ? c : { ...c, id: null }));
    await putBack(api.changePolicy, base, { ...before, version: after.version, categories });
  }
  done.value = null;
  await look();
}
const checked = (event: Event): boolean => (event.target as HTMLInputElement).checked;
const lists = computed(() =>
  done.value === null
    ? []
    : [
        { title: 'Dates moved off a holiday', lines: done.value.moved },
        { title: 'Dates that could not be placed', lines: done.value.unplaced },
        { title: 'Categories with no weight yet', lines: done.value.categories },
        { title: 'Quizzes taken in a room', lines: done.value.rooms },
        { title: 'Words and links that may belong to the old term', lines: done.value.mentions },
      ].filter((l) => l.lines.length > 0),
);
</script>

<template>
  <div class="pad carry">
    <p class="label"><router-link :to="{ name: 'plan', params: { courseId } }">Plan</router-link></p>
    <h2>Copy from another course</h2>
    <p class="soft">It is put beside what is here and never over it; everything arrives as a draft.</p>
    <p v-if="sources.length === 0" class="soft">There is no other course that you teach.</p>
    <div v-else class="choices wrapping">
      <label class="field"
        ><span class="label">From</span
        ><ChoiceField v-model="fromId">
          <option value="" disabled>choose a course</option>
          <option v-for="c in sources" :key="c.id" :value="c.id">{{ c.title }}, {{ c.code }} {{ c.run }}</option>
        </ChoiceField></label
      >
      <label class="field"
        ><span class="label">Dates</span
        ><ChoiceField :model-value="hasDates ? 'with' : 'without'" @change="hasDates = $event === 'with'">
          <option value="with">by teaching week and weekday</option>
          <option value="without">left off</option>
        </ChoiceField></label
      >
      <template v-if="preview && hasDates">
        <label v-for="d in 7" :key="d" class="field day"
          ><span class="label">{{ DAYS[d - 1] }} become</span
          ><ChoiceField :model-value="weekdays[d] ?? d" @change="weekdays = { ...weekdays, [d]: Number($event) }">
            <option v-for="(name, n) in DAYS" :key="name" :value="n + 1">{{ name }}</option>
          </ChoiceField></label
        >
      </template>
    </div>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <section v-if="done" class="report" aria-label="Report" role="status">
      <h3>
        {{ plural(done.itemIds.length, 'item', 'items') }} copied{{
          done.skipped > 0 ? `, ${done.skipped} skipped since they came before` : ''
        }}
      </h3>
      <div v-for="l in lists" :key="l.title">
        <p class="label">{{ l.title }}</p>
        <ul>
          <li v-for="(line, n) in l.lines" :key="n">{{ line }}</li>
        </ul>
      </div>
      <p>
        <router-link :to="{ name: 'plan', params: { courseId } }">To the Plan</router-link> ·
        <router-link :to="{ name: 'dates', params: { courseId } }">All dates</router-link> ·
        <router-link :to="{ name: 'check', params: { courseId } }">Check before opening</router-link>
      </p>
    </section>
    <template v-if="fromId !== '' && !preview && !fault"
      ><div v-for="n in 8" :key="n" class="skeleton" style="height: 24px; margin-top: 10px"
    /></template>
    <p v-if="preview && all.length === 0" class="soft">That course has no items.</p>
    <template v-if="preview && all.length > 0">
      <p class="act-bar">
        <ActButton look="go" :disabled="isBusy || (coming.length === 0 && !wish.hasPolicy)" @click="bring">
          Copy {{ coming.length }} {{ coming.length === 1 ? 'item' : 'items' }}{{ wish.hasPolicy ? ' and the policy' : '' }}
        </ActButton>
        <span class="soft"
          >of {{ all.length }} · {{ preview.from.term.title }} to {{ preview.to.title
          }}<template v-if="hasDates">
            · {{ plural(moved, 'date moves', 'dates move') }} off a holiday ·
            <span :class="{ clay: unplaced > 0 }">{{ plural(unplaced, 'date has', 'dates have') }} no place</span></template
          ></span
        >
        <ActButton
          v-if="chosen.size < all.length"
          look="act"
          @click="
            toggle(
              all.map((i) => i.id),
              true,
            )
          "
          >choose all</ActButton
        >
        <ActButton v-if="chosen.size > 0" look="act" @click="chosen = new Set()">choose none</ActButton>
      </p>
      <section class="policy" aria-label="Grading policy">
        <label
          ><TickBox v-model="hasPolicy" :disabled="preview.policy.refused !== null" /> <span class="serif">The grading policy</span></label
        >
        <span v-if="preview.policy.refused" class="soft"> · {{ preview.policy.refused }}</span>
        <div v-else-if="hasPolicy" class="both">
          <div>
            <p class="label">as it would be</p>
            <p v-for="line in preview.policy.from" :key="line">{{ line }}</p>
          </div>
          <div class="soft">
            <p class="label">as it is here</p>
            <p v-for="line in preview.policy.here" :key="line">{{ line }}</p>
          </div>
        </div>
      </section>
      <PlainTable>
        <caption class="hidden">
          What comes over, with every date old and new
        </caption>
        <tbody v-for="u in preview.units.filter((x) => x.items.length > 0)" :key="u.id">
          <tr>
            <th colspan="3" scope="rowgroup">
              <label
                ><TickBox
                  :model-value="u.items.every((i) => chosen.has(i.id))"
                  :indeterminate="u.items.some((i) => chosen.has(i.id)) && !u.items.every((i) => chosen.has(i.id))"
                  @change="
                    toggle(
                      u.items.map((i) => i.id),
                      checked($event),
                    )
                  "
                />
                <span class="serif">{{ u.title }}</span></label
              >
              <ActButton look="act" class="quiet-act" @click="chosen = new Set(u.items.map((i) => i.id))">this unit only</ActButton>
            </th>
          </tr>
          <tr v-for="i in u.items" :key="i.id" :class="{ off: !chosen.has(i.id) }">
            <td class="title">
              <label
                ><TickBox :model-value="chosen.has(i.id)" @change="toggle([i.id], checked($event))" /> <ItemGlyph :kind="i.kind" />
                {{ i.title }}</label
              >
              <span v-if="i.existing" class="label came"
                >came before
                <ChoiceField
                  :aria-label="`${i.title} came before`"
                  :model-value="again[i.id] ?? 'skip'"
                  @change="again = { ...again, [i.id]: $event as How }"
                >
                  <option value="skip">skip it</option>
                  <option value="replace" :disabled="i.existing.hasWork">
                    replace it{{ i.existing.hasWork ? ': it has work of students' : '' }}
                  </option>
                  <option value="add">add it again</option>
                </ChoiceField></span
              >
            </td>
            <td class="dates">
              <div v-for="d in i.dates" :key="d.name">
                <span class="label">{{ d.name }}</span> <s class="soft">{{ d.was }}</s> {{ d.will ?? '' }}
                <span v-if="d.note" :class="d.note.startsWith('not placed') ? 'clay' : 'label'">{{ d.note }}</span>
              </div>
            </td>
            <td class="label mentions">
              <div v-if="i.nextNote" class="straw">noted for this time: {{ i.nextNote }}</div>
              <div v-for="(m, n) in i.mentions" :key="n">“{{ m }}”</div>
            </td>
          </tr>
        </tbody>
      </PlainTable>
    </template>
  </div>
</template>

<style scoped>
.choices .field {
  min-width: 240px;
}
.choices .day {
  min-width: 90px;
}
th {
  text-align: left;
  padding-top: 16px;
}
th .serif,
.policy .serif {
  font-size: 16px;
  color: var(--ink);
}
td {
  vertical-align: top;
  padding: 5px 10px 5px 0;
}
.title {
  width: 34%;
  padding-left: 18px;
}
.dates {
  width: 40%;
}
.policy {
  padding: 6px 0;
}
.both {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(280px, 1fr));
  gap: 6px 32px;
  padding: 6px 0 4px 22px;
}
.both p {
  margin: 0 0 3px;
}
.off td {
  color: var(--soft);
}
.came .choice-field {
  width: auto;
}
.report {
  border-left: 3px solid var(--leaf);
  padding: 4px 0 8px 16px;
  margin: 12px 0;
}
.report ul {
  margin: 2px 0 10px;
  padding-left: 18px;
  max-height: 180px;
  overflow: auto;
}
</style>
