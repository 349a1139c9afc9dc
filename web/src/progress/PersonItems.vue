<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { ProgressDetail } from '@rosemary/api';
import { minutesInWords } from '@rosemary/core';
import { computed, onMounted, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import ActButton from '../parts/ActButton.vue';
import DateField from '../parts/DateField.vue';
import ItemGlyph from '../parts/ItemGlyph.vue';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useSession } from '../stores/sessionStore.ts';

/** What the share of one student is made of, item by item; and the course as this student sees it. */
const props = defineProps<{ enrolmentId: string }>();
const route = useRoute();
const router = useRouter();
const course = useCourse();
const session = useSession();
const courseId = computed(() => String(route.params.courseId));
const detail = ref<ProgressDetail | null>(null);
const fault = ref('');
const seeOn = ref('');
onMounted(async () => {
  try {
    detail.value = await call(api.getProgressOf, { courseId: courseId.value, enrolmentId: props.enrolmentId });
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
});
const units = computed(() => {
  const list: { id: string; title: string; items: ProgressDetail['items'][number][] }[] = [];
  for (const i of detail.value?.items ?? []) {
    const last = list.find((u) => u.id === i.unitId);
    if (last) last.items.push(i);
    else list.push({ id: i.unitId, title: i.unit, items: [i] });
  }
  return list;
});
async function seeAs(): Promise<void> {
  await session.startSeeAs({
    courseId: courseId.value,
    enrolmentId: props.enrolmentId,
    on: seeOn.value === '' ? null : new Date(`${seeOn.value}T12:00:00`).toISOString(),
  });
  await course.load(courseId.value);
  await router.push({ name: 'own-week', params: { courseId: courseId.value } });
}
</script>

<template>
  <div class="person-items">
    <p v-if="fault" class="fault">{{ fault }}</p>
    <div v-else-if="!detail" class="skeleton" style="height: 60px" />
    <template v-else>
      <div class="spread">
        <p>
          <router-link :to="{ name: 'student', params: { courseId, enrolmentId } }">{{ detail.name }}: the whole story</router-link>
          <span class="soft">{{ detail.share }}</span>
        </p>
        <div v-if="course.head?.role === 'instructor'" class="as no-print">
          <ActButton look="act" @click="seeAs">See as this student</ActButton>
          <DateField
            :model-value="seeOn === '' ? null : seeOn"
            label="on a day; empty is today"
            :zone="course.zone"
            :now="course.now"
            is-day
            @change="seeOn = $event ?? ''"
          />
        </div>
      </div>
      <div class="of-units">
        <section v-for="u in units" :key="u.id">
          <h4>{{ u.title }}</h4>
          <ul class="bare-list">
            <li v-for="i in u.items" :key="i.id" :class="{ soft: !i.isOpen }">
              <span class="tick" :aria-label="i.isDone ? 'done' : 'not done'" role="img">{{ i.isDone ? '✓' : '–' }}</span><span
                ><ItemGlyph :kind="i.kind" /> {{ i.title }}<br /><span class="label"
                  >{{ i.isOpen ? i.how : 'not open yet' }} · {{ i.rule }} · {{ minutesInWords(i.minutes) }}</span
                ></span
              >
            </li>
          </ul>
        </section>
      </div>
    </template>
  </div>
</template>
