<script setup lang="ts">
import type { QuestionView } from '@rosemary/api';
import { onMounted, ref } from 'vue';
import QuestionOnPaper from '../questions/QuestionOnPaper.vue';
import BankRows from './BankRows.vue';
import BankSearchForm from './BankSearchForm.vue';
import { useBank } from './useBank.ts';
import ActButton from '../parts/ActButton.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';

/** The bank, opened beside a paper to take questions from. */
const props = defineProps<{ courseId: string; present: ReadonlySet<string> }>();
const emit = defineEmits<{ take: [questions: QuestionView[]]; leave: [] }>();
const { search, bank, fault, load } = useBank(() => props.courseId);
const chosen = ref<Set<string>>(new Set());
const opened = ref<QuestionView | null>(null);
onMounted(() => load());
const take = (): void => emit('take', bank.value?.questions.filter((q) => chosen.value.has(q.id)) ?? []);
</script>

<template>
  <div class="sheet picker" role="dialog" aria-label="From the bank">
    <h2>From the bank</h2>
    <p v-if="fault" class="fault">{{ fault }}</p>
    <div class="folder">
      <ChoiceField v-model="search.folder" aria-label="Folder">
        <option value="">every folder</option>
        <option v-for="f in bank?.folders ?? []" :key="f.id" :value="f.id">{{ f.title }} ({{ f.questions }})</option>
      </ChoiceField>
      <BankSearchForm v-model="search" :tags="bank?.tags ?? []" class="form" />
    </div>
    <div class="list">
      <BankRows
        v-if="bank"
        :questions="bank.questions"
        :chosen="chosen"
        :opened="opened?.id ?? null"
        :present="present"
        @choose="chosen = $event"
        @open="opened = $event"
      />
      <p v-if="bank && bank.questions.length === 0" class="soft">Nothing matches.</p>
      <ActButton v-if="bank && bank.questions.length < bank.total" look="act" @click="load(bank.questions.length)">
        more of {{ bank.total }}
      </ActButton>
    </div>
    <div v-if="opened" class="shown"><QuestionOnPaper :question="opened" /></div>
    <p>
      <ActButton look="go" :disabled="chosen.size === 0" @click="take">Take {{ chosen.size === 1 ? 'one' : chosen.size }}</ActButton>
      <ActButton look="quiet" @click="emit('leave')">Leave it</ActButton>
    </p>
  </div>
</template>

<style scoped>
.picker {
  padding: 20px 26px;
  display: flex;
  flex-direction: column;
  max-height: 84vh;
}
.folder {
  display: flex;
  gap: 16px;
  align-items: baseline;
  margin: 8px 0;
}
.folder > .choice-field {
  width: 200px;
}
.form {
  flex: 1;
}
.list {
  overflow: auto;
  min-height: 120px;
}
.shown {
  border-top: 1px solid var(--frost);
  padding: 10px 0;
  overflow: auto;
  max-height: 30vh;
}
</style>
