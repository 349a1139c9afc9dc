<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { PublicCourse } from '@rosemary/api';
import { writeDate, LOCALE } from '@rosemary/core';
import { DateTime } from 'luxon';
import { onMounted, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useSession } from '../stores/sessionStore.ts';
import ActButton from '../parts/ActButton.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';

/** What anyone may read of a course, and where one enrols while that is open. */
const route = useRoute();
const router = useRouter();
const session = useSession();
const course = ref<PublicCourse | null>(null);
const fault = ref('');
const enrolFault = ref('');
const sectionId = ref('');
onMounted(async () => {
  try {
    course.value = await call(api.getPublicCourse, { publicId: String(route.params.publicId) });
    sectionId.value = course.value.sections[0]?.id ?? '';
  } catch {
    fault.value = 'There is no page about a course here.';
  }
});
async function enrol(): Promise<void> {
  enrolFault.value = '';
  try {
    await call(api.enrolOneself, { publicId: String(route.params.publicId) }, { sectionId: sectionId.value });
    await session.load();
    await router.push('/this-week');
  } catch (error) {
    enrolFault.value = error instanceof HttpProblem ? error.message : 'You were not enrolled. Try again.';
  }
}
const DAYS = ['Mondays', 'Tuesdays', 'Wednesdays', 'Thursdays', 'Fridays', 'Saturdays', 'Sundays'];
const day = (iso: string): string => writeDate(Date.parse(iso), 'UTC', true);
const instant = (iso: string): string => DateTime.fromISO(iso).setLocale(LOCALE).toFormat('ccc d LLL yyyy HH:mm');
</script>

<template>
  <div class="pad about">
    <p v-if="fault">{{ fault }}</p>
    <div v-if="!course && !fault" class="skeleton" style="height: 120px" />
    <template v-if="course">
      <p class="label">{{ course.school }} · {{ course.code }}</p>
      <h1>{{ course.title }}</h1>
      <img v-if="course.picture" class="picture" :src="course.picture.src" :alt="course.picture.alt" />
      <p class="serif words" :lang="course.language">{{ course.description || 'Nothing is written about this course yet.' }}</p>
      <p v-if="course.isSelfPaced">
        At your own pace: its dates are counted from the day you start<template v-if="course.staff.length > 0"
          >; with {{ course.staff.join(', ') }}</template
        >.
      </p>
      <p v-else>
        {{ course.term.title }}, {{ day(course.term.startsOn) }} to {{ day(course.term.endsOn)
        }}<template v-if="course.staff.length > 0">, with {{ course.staff.join(', ') }}</template
        >.
      </p>
      <p v-for="s in course.sections" :key="s.id">
        <b>{{ s.title }}</b>
        <span class="soft">{{ s.meetingDays.length === 0 ? 'no meetings' : s.meetingDays.map((d) => DAYS[d - 1]).join(', ') }}</span>
      </p>
      <form v-if="course.isEnrolling && session.me?.person" @submit.prevent="enrol">
        <label class="field"
          ><span class="label">Section</span
          ><ChoiceField v-model="sectionId">
            <option v-for="s in course.sections" :key="s.id" :value="s.id">{{ s.title }}</option>
          </ChoiceField></label
        >
        <p v-if="enrolFault" class="fault" role="alert">{{ enrolFault }}</p>
        <ActButton type="submit" look="go">Enrol</ActButton>
      </form>
      <p v-else-if="course.isEnrolling">
        <router-link :to="{ name: 'sign-in', query: { to: route.fullPath } }">Sign in to enrol.</router-link>
      </p>
      <p v-else class="soft">
        {{
          course.enrolsFrom === null
            ? 'Enrolment is by the school.'
            : `Enrolment is open from ${instant(course.enrolsFrom)}${course.enrolsUntil === null ? '' : ` until ${instant(course.enrolsUntil)}`}.`
        }}
      </p>
    </template>
  </div>
</template>

<style scoped>
.about {
  max-width: 680px;
  margin: 0 auto;
}
.words {
  font-size: 17px;
  line-height: 27px;
  white-space: pre-wrap;
  margin: 10px 0 16px;
}
.picture {
  display: block;
  width: 100%;
  max-height: 260px;
  object-fit: cover;
  border-radius: 4px;
  margin: 12px 0;
}
.choice-field {
  max-width: 300px;
}
p {
  margin-bottom: 6px;
}
</style>
