<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { AssignmentSetting } from '@rosemary/api';
import { onMounted } from 'vue';
import { call } from '../../platform/call.ts';
import ItemSheet from '../ItemSheet.vue';
import ItemText from '../ItemText.vue';
import type { EditorEmits, EditorProps } from '../shownKind.ts';
import { useItemText } from '../useItemText.ts';
import AssignmentSettings from './AssignmentSettings.vue';
import RubricEditor from '../../rubric/RubricEditor.vue';

const props = defineProps<EditorProps>();
const emit = defineEmits<EditorEmits>();
const held = useItemText(
  () => `text ${props.base.itemId}`,
  (instructions, version) => call(api.saveInstructions, props.base, { instructions, version }),
);
onMounted(() => held.begin(props.detail.text, props.detail.assignment?.version ?? 0));
function setAssignment(assignment: AssignmentSetting): void {
  held.setVersion(assignment.version);
  emit('saved', { ...props.detail, assignment });
}
</script>

<template>
  <ItemSheet>
    <slot name="head" />
    <ItemText :held="held" label="Instructions" :base="base" :can-edit="canEdit" />
    <RubricEditor
      v-if="detail.assignment?.judged === 'points'"
      :base="base"
      :title="detail.item.title"
      :rubric="detail.rubric"
      :possible="detail.item.possible"
      :can-edit="canEdit"
      @saved="emit('saved', { ...detail, rubric: $event })"
    />
  </ItemSheet>
  <AssignmentSettings
    v-if="detail.assignment"
    :base="base"
    :setting="detail.assignment"
    :can-edit="canEdit"
    :item="detail.item"
    :has-peers="detail.hasPeers"
    :version="held.version"
    :serial="held.serial"
    @saved="setAssignment"
  />
</template>
