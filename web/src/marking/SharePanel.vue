<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { NewShares, SharesView } from '@rosemary/api';
import { computed, onMounted, ref } from 'vue';
import { call } from '../platform/call.ts';
import { useBusy } from '../platform/useBusy.ts';
import { useNotices } from '../stores/noticeStore.ts';
import TickBox from '../parts/fields/TickBox.vue';
import ActButton from '../parts/ActButton.vue';
import FoldOut from '../parts/FoldOut.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import LineField from '../parts/fields/LineField.vue';

/** Who marks what: drawn by chance and evenly, seen before it is kept, and changed one by one. */
const props = defineProps<{ base: { readonly courseId: string; readonly itemId: string }; markers: 1 | 2; isVeiled: boolean }>();
const emit = defineEmits<{ saved: [] }>();
const notices = useNotices();
const view = ref<SharesView | null>(null);
const drawn = ref<Map<string, readonly string[]> | null>(null);
const chosen = ref<string[]>([]);
const within = ref<'sections' | 'all'>('all');
const each = ref('');
const { isBusy, fault, run } = useBusy('Not done. Try again.');
onMounted(async () => {
  try {
    view.value = await call(api.getShares, props.base);
    chosen.value = view.value.markers.filter((m) => m.works > 0).map((m) => m.id);
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
});
const isAny = computed(() => (view.value?.markers ?? []).some((m) => m.works > 0));
const markersOf = (id: string): readonly string[] => drawn.value?.get(id) ?? view.value?.works.find((w) => w.id === id)?.markerIds ?? [];
const count = (markerId: string): number => (view.value?.works ?? []).filter((w) => markersOf(w.id).includes(markerId)).length;
const left = computed(() => (view.value?.works ?? []).filter((w) => markersOf(w.id).length < props.markers).length);
const draw = (): Promise<unknown> =>
  run(async () => {
    const most = each.value.trim() === '' ? null : Number(each.value);
    const answer = await call(api.drawShares, props.base, {
      markerIds: chosen.value,
      within: within.value,
      each: most,
    });
    drawn.value = new Map(answer.shares.map((s) => [s.workId, s.markerIds]));
  });
const asBody = (of: (id: string) => readonly string[]): NewShares => ({
  shares: (view.value?.works ?? []).map((w) => ({ workId: w.id, markerIds: [...of(w.id)] })),
});
async function save(body: NewShares, words: string): Promise<void> {
  const before = asBody((id) => view.value?.works.find((w) => w.id === id)?.markerIds ?? []);
  await run(async () => {
    view.value = await call(api.saveShares, props.base, body);
    drawn.value = null;
    emit('saved');
    notices.say(words, async () => {
      view.value = await call(api.saveShares, props.base, before);
      emit('saved');
    });
  });
}
const keep = (): Promise<void> => save(asBody(markersOf), 'The works are shared out.');
const shareNone = (): Promise<void> => save({ shares: [] }, 'Nothing is shared out: everybody marks those they reach.');
function setMarker(workId: string, place: number, markerId: string): void {
  const next = [...markersOf(workId)];
  if (markerId === '') next.splice(place, 1);
  else next[place] = markerId;
  drawn.value = new Map((view.value?.works ?? []).map((w) => [w.id, w.id === workId ? [...new Set(next)] : markersOf(w.id)]));
}
</script>

<template>
  <section class="part" aria-label="Who marks what">
    <h3>Who marks what</h3>
    <div v-if="!view && !fault" class="skeleton" style="height: 60px" />
    <template v-if="view">
      <p class="soft">
        {{
          isAny || drawn
            ? `${markers === 2 ? 'Two mark each work on their own. ' : ''}An assistant marks what is shared out to them, of any section.`
            : 'Nothing is shared out: everybody marks those they reach, by their sections.'
        }}
      </p>
      <form class="draw" @submit.prevent="draw">
        <div class="pick" role="group" aria-label="Among whom">
          <span class="label">among</span>
          <div class="among">
            <label v-for="m in view.markers" :key="m.id"
              ><TickBox v-model="chosen" :value="m.id" /> {{ m.name }} <span class="label">{{ count(m.id) }}</span></label
            >
          </div>
        </div>
        <label class="pick"
          ><span class="label">each has</span
          ><ChoiceField v-model="within">
            <option value="all">works of all sections</option>
            <option value="sections">works of their sections</option>
          </ChoiceField></label
        >
        <label class="pick"
          ><span class="label">at most, each</span
          ><LineField v-model="each" class="few" inputmode="numeric" pattern="[1-9][0-9]{0,3}" placeholder="no limit"
        /></label>
        <ActButton type="submit" look="quiet" :disabled="isBusy || chosen.length < markers"
          >Draw {{ drawn ? 'again' : 'by chance' }}</ActButton
        >
      </form>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <p v-if="drawn">
        <ActButton look="go" :disabled="isBusy" @click="keep">Keep it so</ActButton>
        <ActButton look="quiet" @click="drawn = null">Leave it</ActButton>
        <span class="soft"
          >Not kept yet. {{ left > 0 ? `${left} works have ${markers === 2 ? 'fewer than two markers' : 'nobody'}.` : '' }}</span
        >
      </p>
      <p v-else-if="isAny"><ActButton look="act" :disabled="isBusy" @click="shareNone">share out nothing</ActButton></p>
      <FoldOut v-if="view.works.length > 0">
        <template #summary>work by work</template>
        <div class="works">
          <div v-for="w in view.works" :key="w.id" class="work">
            <span>{{ w.name }}</span>
            <ChoiceField
              v-for="place in markers"
              :key="place"
              class="soft"
              :aria-label="`${markers === 2 ? `Marker ${place}` : 'Marker'} of ${w.name}`"
              :model-value="markersOf(w.id)[place - 1] ?? ''"
              @change="setMarker(w.id, place - 1, $event)"
            >
              <option value="">nobody</option>
              <option v-for="m in view.markers" :key="m.id" :value="m.id">{{ m.name }}</option>
            </ChoiceField>
          </div>
        </div>
      </FoldOut>
    </template>
  </section>
</template>

<style scoped>
.draw {
  display: flex;
  flex-wrap: wrap;
  gap: 20px;
  align-items: end;
  padding: 6px 0;
}
.among {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  min-height: 30px;
  align-items: center;
}
.pick {
  display: grid;
  grid-template-rows: 18px 30px;
}
.few {
  width: 90px;
}
.works {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(300px, 1fr));
  gap: 0 28px;
  padding-top: 6px;
}
.work {
  display: flex;
  gap: 10px;
  justify-content: space-between;
  align-items: baseline;
  border-bottom: 1px solid var(--frost2);
}
.work .choice-field {
  width: auto;
}
</style>
