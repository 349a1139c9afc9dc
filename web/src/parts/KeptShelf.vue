<script
  setup
  lang="ts"
  generic="
    T extends { readonly id: string; readonly title: string; readonly isShared: boolean; readonly isOwn: boolean; readonly owner: string }
  "
>
import { computed, onMounted, ref, shallowRef } from 'vue';
import { useNotices } from '../stores/noticeStore.ts';
import ActButton from './ActButton.vue';
import ActionMenu from './ActionMenu.vue';
import LineField from './fields/LineField.vue';
import TickBox from './fields/TickBox.vue';

/** What teachers keep to use again: to begin from those that ship, one's own, or those shared here; and to keep the one at hand. */
const props = defineProps<{
  /** What is kept: “rubric”. */
  word: string;
  starters: readonly { readonly title: string }[];
  /** By what the one at hand is kept unless another title is typed; null where there is nothing to keep. */
  title: string | null;
  acts: {
    readonly list: () => Promise<readonly T[]>;
    readonly keep: (id: string, title: string) => Promise<readonly T[]>;
    readonly share: (id: string, isShared: boolean) => Promise<readonly T[]>;
    readonly remove: (id: string) => Promise<readonly T[]>;
    readonly restore: (id: string) => Promise<readonly T[]>;
  };
}>();
const emit = defineEmits<{ take: [kept: T]; begin: [starter: number] }>();
const notices = useNotices();
const kept = shallowRef<readonly T[]>([]);
const isManaging = ref(false);
const keepAs = ref('');
onMounted(async () => {
  kept.value = await props.acts.list().catch(() => []);
});
const own = computed(() => kept.value.filter((k) => k.isOwn));
const shared = computed(() => kept.value.filter((k) => !k.isOwn));
async function run(act: () => Promise<readonly T[]>): Promise<boolean> {
  try {
    kept.value = await act();
    return true;
  } catch (error) {
    notices.sayFault(error);
    return false;
  }
}
function take(chosen: string): void {
  const [from, key] = chosen.split(' ');
  const found = kept.value.find((k) => k.id === key);
  if (from === 'starter') emit('begin', Number(key));
  else if (found !== undefined) emit('take', found);
}
async function keep(): Promise<void> {
  const id = crypto.randomUUID();
  const title = keepAs.value.trim() === '' ? (props.title ?? '') : keepAs.value.trim();
  if (!(await run(() => props.acts.keep(id, title)))) return;
  keepAs.value = '';
  notices.say(`“${title}” is kept among your ${props.word}s.`, async () => {
    await run(() => props.acts.remove(id));
  });
}
async function remove(one: T): Promise<void> {
  if (await run(() => props.acts.remove(one.id)))
    notices.say(`“${one.title}” is removed; where it is used it stays.`, async () => {
      await run(() => props.acts.restore(one.id));
    });
}
</script>

<template>
  <div class="shelf">
    <div class="row">
      <ActionMenu :words="`Begin with a ${word}`" @choose="take">
        <optgroup v-if="own.length > 0" label="Your own">
          <option v-for="k in own" :key="k.id" :value="`kept ${k.id}`">{{ k.title }}</option>
        </optgroup>
        <optgroup v-if="shared.length > 0" label="Shared here">
          <option v-for="k in shared" :key="k.id" :value="`kept ${k.id}`">{{ k.title }}, by {{ k.owner }}</option>
        </optgroup>
        <optgroup label="To begin with">
          <option v-for="(s, n) in starters" :key="s.title" :value="`starter ${n}`">{{ s.title }}</option>
        </optgroup>
      </ActionMenu>
      <template v-if="title !== null">
        <LineField v-model="keepAs" maxlength="120" :placeholder="title" :aria-label="`Title to keep the ${word} by`" />
        <ActButton look="act" @click="keep">Keep this one</ActButton>
      </template>
      <ActButton v-if="own.length > 0" look="act" :aria-expanded="isManaging" @click="isManaging = !isManaging">
        {{ isManaging ? 'done' : 'those I keep' }}
      </ActButton>
    </div>
    <slot />
    <ul v-if="isManaging">
      <li v-for="k in own" :key="k.id">
        <span>{{ k.title }}</span>
        <label
          ><TickBox
            :model-value="k.isShared"
            :aria-label="`Share ${k.title}`"
            @change="run(() => acts.share(k.id, ($event.target as HTMLInputElement).checked))"
          />
          shared with everyone who teaches here</label
        >
        <ActButton look="act" :aria-label="`Remove ${k.title}`" @click="remove(k)">Remove</ActButton>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.shelf {
  font: 14px/22px var(--sans);
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
  align-items: baseline;
}
.row .line-field {
  width: auto;
  min-width: 180px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 6px 0;
}
li {
  display: flex;
  gap: 16px;
  padding: 2px 0;
}
</style>
