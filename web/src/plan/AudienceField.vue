<script setup lang="ts">
import type { AudienceMember, AudienceName } from '@rosemary/api';
import WhomSelect from '../parts/WhomSelect.vue';
import ActButton from '../parts/ActButton.vue';

/** Whom an item or a unit is for. */
const props = defineProps<{ audience: readonly AudienceName[]; canEdit: boolean; fault?: string | null }>();
const emit = defineEmits<{ change: [audience: AudienceMember[]] }>();
const bare = (list: readonly AudienceName[]): AudienceMember[] =>
  list.map(({ sectionId, enrolmentId, groupId }) => ({ sectionId, enrolmentId, groupId }));
const keyOf = (one: AudienceMember): string => one.sectionId ?? one.enrolmentId ?? one.groupId ?? '';
</script>

<template>
  <div class="field audience">
    <span class="label">For {{ audience.length === 0 ? 'everyone in the course' : 'these only' }}</span>
    <ul v-if="audience.length > 0" class="bare-list">
      <li v-for="one in audience" :key="keyOf(one)">
        {{ one.name }}
        <ActButton
          v-if="canEdit"
          look="act"
          :aria-label="`Not for ${one.name} any more`"
          @click="emit('change', bare(props.audience.filter((o) => keyOf(o) !== keyOf(one))))"
          >Remove</ActButton
        >
      </li>
    </ul>
    <WhomSelect
      v-if="canEdit"
      label="For a section, a group or a student"
      :words="audience.length === 0 ? 'For certain sections, groups or students…' : 'And for…'"
      :taken="audience"
      @choose="emit('change', [...bare(audience), ...bare([$event])])"
    />
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
  </div>
</template>

<style scoped>
li {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  padding: 2px 0;
}
</style>
