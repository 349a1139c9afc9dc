<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { PersonChange, School } from '@rosemary/api';
import { countOf } from '@rosemary/core';
import { computed, ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import LineField from '../parts/fields/LineField.vue';
import TickBox from '../parts/fields/TickBox.vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useNotices } from '../stores/noticeStore.ts';
import { useSession } from '../stores/sessionStore.ts';

/** Everybody of the school, found by letters; one is opened to be changed, or deactivated when they have left. */
type Person = School['people'][number];
const props = defineProps<{ people: readonly Person[] }>();
const emit = defineEmits<{ changed: [school: School] }>();
const notices = useNotices();
const session = useSession();
const letters = ref('');
const MOST = 200;
const found = computed(() => {
  const wanted = letters.value.trim().toLowerCase();
  return props.people.filter((p) => `${p.familyName} ${p.givenName} ${p.email} ${p.familyName}`.toLowerCase().includes(wanted));
});
const openId = ref<string | null>(null);
const form = ref<PersonChange | null>(null);
const faults = ref<Record<string, string>>({});
const asForm = ({ email, givenName, familyName, isAdministrator, teaches, isActive }: Person): PersonChange => ({
  ...{ email, givenName, familyName, isAdministrator, teaches, isActive },
});
function open(person: Person): void {
  faults.value = {};
  openId.value = person.id;
  form.value = asForm(person);
}
const close = (): void => {
  openId.value = null;
};
async function set(person: Person, change: PersonChange, words: string): Promise<boolean> {
  faults.value = {};
  try {
    emit('changed', (await call(api.changePerson, { id: person.id }, change)).school);
    notices.say(words, async () => {
      emit('changed', (await call(api.changePerson, { id: person.id }, asForm(person))).school);
    });
    return true;
  } catch (error) {
    if (!(error instanceof HttpProblem)) throw error;
    faults.value = Object.fromEntries((error.problem.pointers ?? [{ field: 'email', text: error.message }]).map((p) => [p.field, p.text]));
    return false;
  }
}
async function save(person: Person): Promise<void> {
  if (form.value !== null && (await set(person, form.value, `${form.value.givenName} ${form.value.familyName} is changed.`))) close();
}
async function setActive(person: Person, isActive: boolean): Promise<void> {
  const words = isActive ? 'can sign in again.' : 'is deactivated: signed out everywhere, and signs in no more. Their work and marks stay.';
  if (await set(person, { ...asForm(person), isActive }, `${person.givenName} ${person.familyName} ${words}`)) close();
}
const about = (p: Person): string =>
  [p.email, p.isAdministrator ? 'administrator' : '', p.teaches ? 'teaches' : '', p.isActive ? '' : 'deactivated']
    .filter(Boolean)
    .join(', ');
</script>

<template>
  <h2>
    People <span class="soft" style="font-size: 14px">{{ people.length }}</span>
  </h2>
  <label class="field"><span class="label">Find by name or email</span><LineField v-model="letters" type="search" /></label>
  <div class="people" tabindex="0" role="region" aria-label="People of the school">
    <p v-if="found.length === 0" class="soft">Nobody with “{{ letters }}” in their name or email.</p>
    <ul class="bare-list">
      <li v-for="p in found.slice(0, MOST)" :key="p.id">
        <span :class="{ soft: !p.isActive }"
          >{{ p.familyName }}, {{ p.givenName }} <span class="soft">{{ about(p) }}</span></span
        >
        <ActButton v-if="openId !== p.id" look="act" :aria-label="`Change ${p.givenName} ${p.familyName}`" @click="open(p)"
          >change</ActButton
        >
        <form v-else-if="form" class="person" @submit.prevent="save(p)">
          <div class="two-columns">
            <label class="field"
              ><span class="label">Given name</span><LineField v-model="form.givenName" maxlength="80" required takes-focus /></label
            ><label class="field"
              ><span class="label">Family name</span><LineField v-model="form.familyName" maxlength="80" required
            /></label>
          </div>
          <p v-if="faults.givenName ?? faults.familyName" class="fault" role="alert">{{ faults.givenName ?? faults.familyName }}</p>
          <label class="field"
            ><span class="label">Email</span><LineField v-model="form.email" type="email" maxlength="200" required
          /></label>
          <p v-if="faults.email" class="fault" role="alert">{{ faults.email }}</p>
          <label><TickBox v-model="form.teaches" /> teaches, and may make courses</label><br />
          <label><TickBox v-model="form.isAdministrator" /> administrator of the school</label>
          <p v-if="faults.isAdministrator" class="fault" role="alert">{{ faults.isAdministrator }}</p>
          <p>
            <ActButton type="submit" look="quiet">Save</ActButton> <ActButton look="act" @click="close">leave it</ActButton> ·
            <template v-if="p.id !== session.me?.person?.id"
              ><ActButton look="act" @click="setActive(p, !p.isActive)">{{
                p.isActive ? 'Deactivate' : 'Activate again'
              }}</ActButton></template
            ><span v-else class="soft">this is you</span>
          </p>
          <p v-if="faults.isActive" class="fault" role="alert">{{ faults.isActive }}</p>
        </form>
      </li>
    </ul>
    <p v-if="found.length > MOST" class="soft">and {{ countOf(found.length - MOST, 'other') }}; type letters to find them</p>
  </div>
</template>

<style scoped>
.people {
  max-height: 300px;
  overflow: auto;
}
li {
  padding: 5px 0;
  border-top: 1px solid var(--frost2);
}
.person {
  padding: 6px 0 10px 14px;
  border-left: 3px solid var(--frost);
}
</style>
