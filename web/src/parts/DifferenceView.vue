<script setup lang="ts">
import { differences, plainText, type DocumentNode } from '@rosemary/core';
import { computed, ref } from 'vue';
import ActButton from './ActButton.vue';

/** A new attempt with what came and what went since the one before; unchanged paragraphs can be folded away. */
const props = defineProps<{ before: DocumentNode | null; after: DocumentNode | null; earlier: number }>();
const hidesSame = ref(false);
const all = computed(() => differences(plainText(props.before), plainText(props.after)).filter((p) => p.parts.some((x) => x.text !== '')));
const changed = computed(() => all.value.filter((p) => p.isChanged).length);
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
      {{
        changed === 0
          ? `The words are those of attempt ${earlier}.`
          : `${changed} of ${all.length} paragraphs changed since attempt ${earlier}.`
      }}
      <ActButton v-if="changed > 0 && changed < all.length" look="act" :aria-pressed="hidesSame" @click="hidesSame = !hidesSame">
        {{ hidesSame ? 'Show the whole text' : 'Show what changed alone' }}
      </ActButton>
    </p>
    <template v-for="(line, n) in shown" :key="n">
      <p v-if="line.paragraph === null" class="soft skipped">
        {{ line.skipped === 1 ? 'one paragraph' : `${line.skipped} paragraphs` }} unchanged
      </p>
      <p v-else>
        <template v-for="(part, m) in line.paragraph.parts" :key="m"
          ><ins v-if="part.kind === 'added'">{{ part.text }}</ins
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
.skipped {
  font: italic 13px/18px var(--sans);
}
</style>
