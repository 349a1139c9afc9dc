<script setup lang="ts">
import { computed } from 'vue';
import { LONGEST, useRecording } from './useRecording.ts';
import ActButton from '../ActButton.vue';

/** Records a voice, lets it be heard, and gives it away only when it is to be used. */
defineProps<{ isBusy?: boolean }>();
const emit = defineEmits<{ use: [file: File] }>();
const r = useRecording();
const clock = (s: number): string => `${Math.floor(s / 60)}:${String(Math.floor(s % 60)).padStart(2, '0')}`;
const time = computed(() => clock(r.seconds.value));
</script>

<template>
  <div class="recorder">
    <p v-if="r.state.value === 'idle'">
      <ActButton look="act" @click="r.start()">Record a voice</ActButton>
      <span class="label"> at most {{ LONGEST / 60 }} minutes; it is sent only when you use it</span>
    </p>
    <p v-else-if="r.state.value === 'done'" class="heard">
      <audio controls :src="r.address.value" aria-label="What was recorded" />
      <span>
        <ActButton look="act" :disabled="isBusy" @click="emit('use', r.file.value!)">Use it</ActButton> ·
        <ActButton look="act" :disabled="isBusy" @click="r.start()">Record anew</ActButton> ·
        <ActButton look="act" :disabled="isBusy" @click="r.again()">let it go</ActButton></span
      >
    </p>
    <p v-else class="going">
      <span role="status">{{ r.state.value === 'on' ? 'Recording' : 'Paused' }}</span>
      <span class="time" role="timer">{{ time }}</span>
      <meter min="0" max="1" :value="r.level.value" aria-label="How loud it is" />
      <ActButton look="act" @click="r.pause()">{{ r.state.value === 'on' ? 'Pause' : 'Go on' }}</ActButton>
      <ActButton look="act" @click="r.stop()">Stop</ActButton>
    </p>
    <p v-if="r.fault.value" class="fault" role="alert">{{ r.fault.value }}</p>
  </div>
</template>

<style scoped>
.recorder {
  margin-bottom: 10px;
}
.going,
.heard {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: center;
}
.time {
  font-variant-numeric: tabular-nums;
  min-width: 40px;
}
audio {
  height: 36px;
  max-width: 260px;
}
</style>
