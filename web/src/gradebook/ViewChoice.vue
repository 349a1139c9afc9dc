<script setup lang="ts">
import type { Gradebook } from '@rosemary/api';
import { useCourse } from '../stores/courseStore.ts';
import ActButton from '../parts/ActButton.vue';
import DateField from '../parts/DateField.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import TickBox from '../parts/fields/TickBox.vue';
import { FIRST_CHOICE, type GridChoice, type Highlight } from './gridChoice.ts';
import { COLUMN_ORDERS, HIGHLIGHTS, ROW_STATES } from './gridWords.ts';

/** How the grid is looked at: its order, what of it is shown, what is highlighted. It is remembered for this person and course. */
const choice = defineModel<GridChoice>({ required: true });
const props = defineProps<{ book: Pick<Gradebook, 'categories' | 'periods' | 'passPercent'> }>();
const emit = defineEmits<{ arrange: [] }>();
const course = useCourse();
const set = (change: Partial<GridChoice>): void => {
  choice.value = { ...choice.value, ...change };
};
function setHighlight(which: Highlight, isOn: boolean | readonly string[] | undefined): void {
  const rest = choice.value.highlights.filter((h) => h !== which);
  set({ highlights: isOn === true ? [...rest, which] : rest });
}
const needsPass = (which: string): boolean => which === 'failing' && props.book.passPercent === null;
</script>

<template>
  <div class="sheet pad view-choice" role="dialog" aria-label="How the gradebook is shown">
    <section>
      <h4>Columns</h4>
      <div class="line">
        Order
        <ChoiceField :model-value="choice.order" aria-label="Order of the columns" @change="set({ order: $event as GridChoice['order'] })">
          <option v-for="(words, order) in COLUMN_ORDERS" :key="order" :value="order">{{ words }}</option>
        </ChoiceField>
      </div>
      <p v-if="choice.order === 'own'"><ActButton look="act" @click="emit('arrange')">Arrange the columns…</ActButton></p>
      <div class="line">
        Category
        <ChoiceField
          :model-value="choice.categoryId"
          aria-label="Category that is shown"
          @change="set({ categoryId: $event as string | null })"
        >
          <option :value="null">all</option>
          <option v-for="c in book.categories" :key="c.id" :value="c.id">{{ c.title }}</option>
        </ChoiceField>
      </div>
      <div v-if="book.periods.length > 0" class="line">
        Grading period
        <ChoiceField
          :model-value="choice.periodId"
          aria-label="Grading period that is shown"
          @change="set({ periodId: $event as string | null })"
        >
          <option :value="null">all</option>
          <option v-for="p in book.periods" :key="p.id" :value="p.id">{{ p.title }}</option>
        </ChoiceField>
      </div>
    </section>
    <section>
      <h4>Students</h4>
      <div class="line">
        Names
        <ChoiceField :model-value="choice.nameBy" aria-label="Names" @change="set({ nameBy: $event as GridChoice['nameBy'] })">
          <option value="family">family name first</option>
          <option value="given">given name first</option>
        </ChoiceField>
      </div>
      <div class="line">
        Group
        <ChoiceField :model-value="choice.groupId" aria-label="Group that is shown" @change="set({ groupId: $event as string | null })">
          <option :value="null">everyone</option>
          <option v-for="g in course.head?.groups ?? []" :key="g.id" :value="g.id">{{ g.title }}</option>
        </ChoiceField>
      </div>
      <div class="line">
        Only those who
        <ChoiceField
          :model-value="choice.state"
          aria-label="Students that are shown"
          @change="set({ state: $event as GridChoice['state'] })"
        >
          <option :value="null">are in the course</option>
          <option v-for="(words, state) in ROW_STATES" :key="state" :value="state" :disabled="needsPass(state)">{{ words }}</option>
        </ChoiceField>
      </div>
    </section>
    <section>
      <h4>Highlight</h4>
      <template v-for="(words, which) in HIGHLIGHTS" :key="which">
        <label class="tick-line" :class="{ soft: needsPass(which) }"
          ><TickBox
            :model-value="choice.highlights.includes(which)"
            :disabled="needsPass(which)"
            @update:model-value="setHighlight(which, $event)"
          />
          {{ words }}</label
        >
      </template>
      <DateField
        v-if="choice.highlights.includes('changed')"
        :model-value="choice.changedSince"
        label="Changed since"
        time="00:00"
        :zone="course.zone"
        :now="course.now"
        @change="set({ changedSince: $event })"
      />
      <p v-if="book.passPercent === null" class="soft">The pass mark is set in the policy.</p>
    </section>
    <section>
      <h4>Rows</h4>
      <label class="tick-line"
        ><TickBox :model-value="choice.isCompact" @update:model-value="set({ isCompact: $event === true })" /> compact</label
      >
      <label class="tick-line"
        ><TickBox :model-value="choice.showsInspector" @update:model-value="set({ showsInspector: $event === true })" /> working at the
        right</label
      >
      <p><ActButton look="act" @click="choice = { ...FIRST_CHOICE, own: choice.own }">As at the beginning</ActButton></p>
    </section>
  </div>
</template>

<style scoped>
.view-choice {
  width: 560px;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 34px;
}
h4 {
  margin: 6px 0;
}
.line {
  display: grid;
  grid-template-columns: 96px 1fr;
  align-items: baseline;
  padding: 3px 0;
}
</style>
