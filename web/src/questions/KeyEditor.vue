<script setup lang="ts">
import type { QuestionPicture, QuestionKey } from '@rosemary/core';
import BlanksKey from './keys/BlanksKey.vue';
import CalculatedKey from './keys/CalculatedKey.vue';
import ChoicesKey from './keys/ChoicesKey.vue';
import HotspotKey from './keys/HotspotKey.vue';
import MatchingKey from './keys/MatchingKey.vue';
import NumericKey from './keys/NumericKey.vue';
import OrderingKey from './keys/OrderingKey.vue';
import TextRulesKey from './keys/TextRulesKey.vue';

/** The key of a question, changed where it stands, in every kind. */
defineProps<{ value: QuestionKey; picture: QuestionPicture | null; courseId: string; isFixed?: boolean }>();
const emit = defineEmits<{ change: [key: QuestionKey]; picture: [picture: QuestionPicture | null]; insert: [name: string] }>();
</script>

<template>
  <fieldset class="key" :disabled="isFixed">
    <legend class="hidden">Key</legend>
    <ChoicesKey
      v-if="value.kind === 'single' || value.kind === 'several' || value.kind === 'truth'"
      :value="value"
      @change="emit('change', $event)"
    />
    <NumericKey v-else-if="value.kind === 'numeric'" :value="value" @change="emit('change', $event)" />
    <CalculatedKey
      v-else-if="value.kind === 'calculated'"
      :value="value"
      @change="emit('change', $event)"
      @insert="emit('insert', $event)"
    />
    <TextRulesKey
      v-else-if="value.kind === 'short'"
      :rules="value.rules"
      what="Accepted answers"
      @change="emit('change', { kind: 'short', rules: $event })"
    />
    <BlanksKey v-else-if="value.kind === 'blanks'" :value="value" @change="emit('change', $event)" />
    <MatchingKey v-else-if="value.kind === 'matching'" :value="value" @change="emit('change', $event)" />
    <OrderingKey v-else-if="value.kind === 'ordering'" :value="value" @change="emit('change', $event)" />
    <HotspotKey
      v-else-if="value.kind === 'hotspot'"
      :value="value"
      :picture="picture"
      :course-id="courseId"
      @change="emit('change', $event)"
      @picture="emit('picture', $event)"
    />
    <p v-else class="soft">
      {{ value.kind === 'essay' ? 'Written at length; somebody marks it.' : 'A file is given; somebody marks it.' }}
    </p>
  </fieldset>
</template>

<style scoped>
.key {
  border: 0;
  padding: 0;
  margin: 8px 0 0;
  min-width: 0;
  font:
    15px/24px 'Source Sans 3 Variable',
    sans-serif;
}
</style>
