<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { Desk, Slip } from '@rosemary/api';
import { computed, defineAsyncComponent, onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import { call } from '../platform/call.ts';
import { useNotices } from '../stores/noticeStore.ts';
import { useSession } from '../stores/sessionStore.ts';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';
import FloatMenu from '../parts/FloatMenu.vue';

// Drawn when the page is there: what draws it is not small, and its place is kept.
const FirstSteps = defineAsyncComponent(() => import('../begin/FirstSteps.vue'));
const TermLine = defineAsyncComponent(() => import('../shell/TermLine.vue'));
const desk = ref<Desk | null>(null);
const fault = ref('');
const notices = useNotices();
const session = useSession();
const router = useRouter();
onMounted(async () => {
  try {
    desk.value = await call(api.getDesk, {});
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
});

const mayMake = computed(
  () =>
    session.me?.person?.isAdministrator === true ||
    session.me?.person?.teaches === true ||
    session.me?.courses.some((c) => c.role === 'instructor') === true,
);
/** The course that somebody begins who has none open yet: its steps lead on from the Desk too. */
const begunId = computed(() => {
  const own = session.me?.courses.filter((c) => c.role !== 'student' && !c.isArchived) ?? [];
  return own.some((c) => c.isOpen) ? null : (own.find((c) => c.role === 'instructor')?.id ?? null);
});
const DAY = 86_400_000;
async function put(slip: Slip, days: number | null, words: string): Promise<void> {
  const until = days === null ? null : new Date(Date.parse(session.me?.now ?? '') + days * DAY).toISOString();
  const write = async (to: string | null): Promise<void> => {
    desk.value = await call(api.putSlipAside, {}, { slip: slip.id, until: to });
  };
  try {
    await write(until);
    notices.say(words, () => write(new Date(0).toISOString()));
  } catch (error) {
    notices.sayFault(error);
  }
}
async function back(slip: Slip): Promise<void> {
  try {
    desk.value = await call(api.putSlipAside, {}, { slip: slip.id, until: new Date(0).toISOString() });
  } catch (error) {
    notices.sayFault(error);
  }
}
const openItem = (id: string): void => {
  const item = desk.value?.line?.items.find((i) => i.id === id);
  if (item) void router.push(`/courses/${item.courseId}/plan?item=${id}`);
};
</script>

<template>
  <div v-if="fault" class="pad">
    <h1>Your Desk cannot be read</h1>
    <p class="soft">{{ fault }}</p>
  </div>
  <div v-else>
    <div class="head">
      <div class="row">
        <h1>{{ desk?.heading ?? ' ' }}</h1>
        <span class="soft">{{ desk?.summary }}</span>
      </div>
      <div v-if="desk?.line" style="margin-top: 6px; min-height: 76px"><TermLine :data="desk.line" @open="openItem" /></div>
      <div v-else-if="!desk" class="skeleton" style="height: 60px; margin: 8px 0" />
    </div>
    <FirstSteps v-if="begunId" :course-id="begunId" />
    <div class="columns">
      <section class="pad waits" aria-labelledby="waits">
        <h2 id="waits">What waits for you</h2>
        <p v-if="desk && desk.slips.length === 0" class="soft empty">
          Nothing waits. Work handed in, and drafts that are due soon, will stand here.
        </p>
        <template v-if="!desk"><div v-for="n in 4" :key="n" class="skeleton" style="height: 44px; margin-top: 14px" /></template>
        <article v-for="slip in desk?.slips" :key="slip.id" class="slip">
          <div class="verb">{{ slip.verb }}</div>
          <div>
            <div class="what">
              {{ slip.text }} <span class="soft">{{ slip.after }}</span>
            </div>
            <div class="soft">
              {{ slip.detail }} <b>{{ slip.strong }}</b>
            </div>
          </div>
          <div class="do">
            <router-link :to="slip.to">{{ slip.action }} →</router-link>
            <FloatMenu
              ><template #activator="{ props }"
                ><ActButton v-bind="props" look="act" class="later" :aria-label="`Put off: ${slip.text}`">later ▾</ActButton></template
              >
              <div class="sheet menu">
                <ActButton @click="put(slip, 1, 'Back tomorrow.')">Tomorrow</ActButton
                ><ActButton @click="put(slip, 2, 'Back in two days.')">In two days</ActButton
                ><ActButton @click="put(slip, 7, 'Back in a week.')">In a week</ActButton>
                <hr />
                <ActButton @click="put(slip, null, 'Not needed: it stays away.')">Not needed</ActButton>
              </div>
            </FloatMenu>
          </div>
        </article>
      </section>
      <section class="pad courses" aria-labelledby="courses">
        <h2 id="courses">Your courses</h2>
        <router-link v-if="mayMake" to="/courses/new" class="new">New course</router-link>
        <p v-if="desk && desk.courses.length === 0" class="soft empty">
          {{
            mayMake
              ? 'You teach no course yet. Make the first one: it is laid out with units and dates, and nobody sees it until you open it.'
              : 'You teach no course yet. An administrator makes one and names you its instructor.'
          }}
        </p>
        <PlainTable v-else>
          <thead>
            <tr>
              <th>Course</th>
              <th class="num">students</th>
              <th class="num">to mark</th>
              <th class="num">class so far</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="c in desk?.courses" :key="c.id">
              <td>
                <router-link :to="`/courses/${c.id}/plan`">{{ c.title }}</router-link><br /><span class="soft">{{ c.about }}</span>
              </td>
              <td class="num">{{ c.students }}</td>
              <td class="num">
                <router-link v-if="c.toMark > 0" :to="`/courses/${c.id}/marking`">{{ c.toMark }}</router-link><span v-else aria-label="none"
                  >·</span
                >
              </td>
              <td class="num">
                <router-link v-if="c.soFar" :to="`/courses/${c.id}/gradebook?of=class`" class="ink">{{ c.soFar }}</router-link><span v-else
                  >·</span
                >
              </td>
            </tr>
          </tbody>
        </PlainTable>
        <template v-if="desk && desk.putOff.length > 0"
          ><h2 style="margin-top: 22px">Put off</h2>
          <div v-for="p in desk.putOff" :key="p.slip.id" class="off soft">
            <span>{{ p.slip.verb }} {{ p.slip.text }}</span
            ><ActButton look="act" @click="back(p.slip)">{{ p.back }} · put back</ActButton>
          </div></template
        >
      </section>
    </div>
  </div>
</template>

<style scoped>
.new {
  float: right;
  margin-top: -22px;
}
.head {
  padding: 14px 20px 8px;
  background: var(--paper);
  border-bottom: 1px solid var(--frost);
}
.row {
  display: flex;
  align-items: baseline;
  gap: 14px;
  flex-wrap: wrap;
}
.columns {
  display: flex;
}
.waits {
  flex: 1;
  min-width: 0;
}
.courses {
  width: 440px;
  border-left: 1px solid var(--frost);
  min-height: 460px;
}
h2 {
  margin-bottom: 8px;
}
.slip {
  display: grid;
  grid-template-columns: 92px 1fr auto;
  gap: 14px;
  padding: 11px 0;
  border-top: 1px solid var(--frost);
  align-items: baseline;
}
.verb {
  font: 500 15px/20px var(--serif);
  color: var(--needle);
}
.what {
  font-size: 15px;
}
.do {
  text-align: right;
  white-space: nowrap;
}
.do a {
  display: inline-block;
  padding: 2px 0;
}
.later {
  color: var(--soft);
  display: block;
  margin-left: auto;
  font-size: 13px;
  padding: 3px 0;
  min-width: 44px;
}
.empty {
  padding: 14px 0;
  border-top: 1px solid var(--frost);
}
.off {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  padding: 3px 0;
}
.ink {
  color: var(--ink);
}
@media (max-width: 900px) {
  .columns {
    display: block;
  }
  .courses {
    width: auto;
    border-left: 0;
  }
}
</style>
