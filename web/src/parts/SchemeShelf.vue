<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { PlainScheme } from '@rosemary/api';
import { READY_SCHEMES } from '@rosemary/core';
import { call } from '../platform/call.ts';
import KeptShelf from './KeptShelf.vue';

/** Schemes to begin from: those that ship, one's own, and those shared here; and the one at hand, to be kept. */
const props = defineProps<{ scheme: PlainScheme; title: string }>();
const emit = defineEmits<{ take: [scheme: PlainScheme] }>();
const acts = {
  list: () => call(api.listKeptSchemes, {}),
  keep: (id: string, title: string) => call(api.keepScheme, {}, { id, title, scheme: props.scheme }),
  share: (schemeId: string, isShared: boolean) => call(api.changeKeptScheme, { schemeId }, { isShared }),
  remove: (schemeId: string) => call(api.removeKeptScheme, { schemeId }),
  restore: (schemeId: string) => call(api.restoreKeptScheme, { schemeId }),
};
const take = ({
  levels,
  passPercent,
}: {
  readonly levels: readonly PlainScheme['levels'][number][];
  readonly passPercent: number | null;
}) => emit('take', { levels: levels.map((l) => ({ ...l })), passPercent });
</script>

<template>
  <KeptShelf
    word="scheme"
    :starters="READY_SCHEMES"
    :title="scheme.levels.length > 0 ? title : null"
    :acts="acts"
    @begin="take(READY_SCHEMES[$event]!)"
    @take="take($event.scheme)"
  />
</template>
