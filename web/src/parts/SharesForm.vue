<script setup lang="ts">
import { ref } from 'vue';
import { HttpProblem } from '../platform/http.ts';
import ActButton from './ActButton.vue';
import TickBox from './fields/TickBox.vue';
import LineField from './fields/LineField.vue';

interface ShareChange {
  readonly addShare?: { readonly email: string; readonly canEdit: boolean };
  readonly endShare?: string;
}
/** Colleagues with whom something is shared, to read or to edit; each change is kept at once. */
const props = defineProps<{
  title: string;
  shares: readonly { readonly personId: string; readonly name: string; readonly canEdit: boolean }[];
  /** What to read means here, and who reaches it anyway. */
  note: string;
  save: (change: ShareChange) => Promise<unknown>;
  reload: () => Promise<void>;
}>();
const emit = defineEmits<{ leave: [] }>();
const lines = ref(props.shares.map((s) => ({ email: '', name: s.name, canEdit: s.canEdit, isKept: true })));
const email = ref('');
const canEdit = ref(false);
const fault = ref('');
async function share(): Promise<void> {
  fault.value = '';
  try {
    await props.save({ addShare: { email: email.value, canEdit: canEdit.value } });
    await props.reload();
    emit('leave');
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not saved.';
  }
}
async function end(name: string): Promise<void> {
  const line = props.shares.find((s) => s.name === name);
  if (line === undefined) return;
  try {
    await props.save({ endShare: line.personId });
    lines.value = lines.value.filter((l) => l.name !== name);
    await props.reload();
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not saved.';
  }
}
</script>

<template>
  <div class="sheet shares" role="dialog" :aria-label="`Share ${title}`">
    <h2>Share “{{ title }}”</h2>
    <ul>
      <li v-for="l in lines" :key="l.name">
        {{ l.name }} <span class="soft">{{ l.canEdit ? 'may edit' : 'may read' }}</span>
        <ActButton look="act" @click="end(l.name)">end it</ActButton>
      </li>
      <li v-if="lines.length === 0" class="soft">With nobody yet.</li>
    </ul>
    <p class="soft">{{ note }}</p>
    <slot />
    <form @submit.prevent="share">
      <label class="field"
        ><span class="label">A colleague’s email</span><LineField v-model="email" type="email" required maxlength="200"
      /></label>
      <p>
        <label><TickBox v-model="canEdit" /> may edit, not only read</label>
      </p>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <p><ActButton type="submit" look="go">Share it</ActButton> <ActButton look="quiet" @click="emit('leave')">Close</ActButton></p>
    </form>
  </div>
</template>

<style scoped>
.shares {
  padding: 20px 26px;
}
ul {
  padding-left: 18px;
  margin: 10px 0 16px;
}
p,
form {
  margin-top: 10px;
}
</style>
