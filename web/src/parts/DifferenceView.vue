<script setup lang="ts">
import { countChanges, differences, plainText, type DocumentNode, type ParagraphChange } from '@rosemary/core';
import { computed, ref } from 'vue';
import ActButton from './ActButton.vue';

/** A text with what came and what went since an earlier one; unchanged paragraphs can be folded away. */
const props = defineProps<{ before: DocumentNode | null; after: DocumentNode | null; since: string; isShort?: boolean }>();
const hidesSame = ref(props.isShort);
const all = computed(() => differences(plainText(props.before), plainText(props.after)).filter((p) => p.parts.some((x) => x.text !== '')));
const counts = computed(() => countChanges(all.value));
const changed = computed(() => Object.values(counts.value).reduce((sum, n) => sum + n, 0));
const inWords = computed(() =>
  (['replaced', 'added', 'deleted', 'moved'] as const)
    .flatMap((c) => (counts.value[c] === 0 ? [] : [`${counts.value[c]} ${c}`]))
    .join(', '),
);
const CHANGE: { readonly [change in ParagraphChange]: string } = {
  same: '',
  replaced: 'replaced',
  added: 'added',
  deleted: 'deleted',
  moved: 'moved here',
  'moved away': 'stood here',
};
/** Runs of unchanged paragraphs become one line that says how many they are. */
const shown = computed(() => {
  if (!hidesSame.value) return all.value.map((paragraph) => ({ paragraph, skipped: 0 }));
  const lines: { paragraph: (typeof all.value)[number] | null; skipped: number }[] = [];
  for (const paragraph of all.value) {
    const last = lines.at(-1);
    if (paragraph.isChanged) lines.push({ paragraph, skipped: 0 });
    else if (last?.paragraph === null) last.skipped += 1;
    else lines.push({ paragraph: null, skipped: 1 });
  }
  return lines;
});
</script>

<template>
  <div class="document">
    <p class="label head" role="status">
      {{ changed === 0 ? `The words do not differ from ${since}.` : `Paragraphs that differ from ${since}: ${inWords}.` }}
      <ActButton v-if="changed > 0 && changed < all.length" look="act" :aria-pressed="hidesSame" @click="hidesSame = !hidesSame">
        {{ hidesSame ? 'Show the whole text' : 'Show what changed alone' }}
      </ActButton>
    </p>
    <template v-for="(line, n) in shown" :key="n">
      <p v-if="line.paragraph === null" class="soft skipped">
        {{ line.skipped === 1 ? 'one paragraph' : `${line.skipped} paragraphs` }} unchanged
      </p>
      <p v-else :class="{ moved: line.paragraph.change === 'moved' }">
        <span v-if="CHANGE[line.paragraph.change]" class="label change">{{ CHANGE[line.paragraph.change] }}</span>
        <template v-for="(part, m) in line.paragraph.parts" :key="m"
          ><template v-if="line.paragraph.change === 'moved'">{{ part.text }}</template
          ><ins v-else-if="part.kind === 'added'">{{ part.text }}</ins
          ><del v-else-if="part.kind === 'removed'">{{ part.text }}</del
          ><template v-else>{{ part.text }}</template></template
        >
      </p>
    </template>
  </div>
</template>

<style scoped>
.head {
  font-family: 'Source Sans 3 Variable', sans-serif;
}
ins {
  text-decoration: underline;
  text-decoration-thickness: 2px;
  text-decoration-color: var(--needle);
  background: color-mix(in srgb, var(--leaf) 18%, transparent);
}
del {
  color: var(--clay);
}
.change {
  display: block;
}
.moved {
  border-left: 2px solid var(--needle);
  padding-left: 10px;
}
.skipped {
  font: italic 13px/18px var(--sans);
}
</style>
