<script setup lang="ts">
import { computed } from 'vue';
import { LONGEST, useRecording } from './useRecording.ts';

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
      <button type="button" class="act" @click="r.start()">Record a voice</button>
      <span class="label"> at most {{ LONGEST / 60 }} minutes; it is sent only when you use it</span>
    </p>
    <p v-else-if="r.state.value === 'done'" class="heard">
      <audio controls :src="r.address.value" aria-label="What was recorded" />
      <span>
        <button type="button" class="act" :disabled="isBusy" @click="emit('use', r.file.value!)">Use it</button> ·
        <button type="button" class="act" :disabled="isBusy" @click="r.start()">Record anew</button> ·
        <button type="button" class="act" :disabled="isBusy" @click="r.again()">let it go</button></span
      >
    </p>
    <p v-else class="going">
      <span role="status">{{ r.state.value === 'on' ? 'Recording' : 'Paused' }}</span>
      <span class="time" role="timer">{{ time }}</span>
      <meter min="0" max="1" :value="r.level.value" aria-label="How loud it is" />
      <button type="button" class="act" @click="r.pause()">{{ r.state.value === 'on' ? 'Pause' : 'Go on' }}</button>
      <button type="button" class="act" @click="r.stop()">Stop</button>
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
