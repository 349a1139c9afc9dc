import { onBeforeUnmount, ref } from 'vue';

/** The longest recording, in seconds: half an hour of speech is about 15 MB. */
export const LONGEST = 1800;
const KINDS = [
  ['audio/webm;codecs=opus', 'weba'],
  ['audio/ogg;codecs=opus', 'ogg'],
  ['audio/mp4', 'm4a'],
] as const;

function why(error: unknown): string {
  const name = error instanceof DOMException ? error.name : '';
  if (name === 'NotAllowedError')
    return 'The microphone was not allowed. Allow it beside the address of this page and try again, or add a file.';
  if (name === 'NotFoundError') return 'No microphone was found. Plug one in and try again, or add a file.';
  return 'The microphone could not be opened; another program may be using it. Close that and try again, or add a file.';
}

/** One voice recorded in the browser; nothing leaves it before it is used. */
export function useRecording() {
  const state = ref<'idle' | 'on' | 'paused' | 'done'>('idle');
  const seconds = ref(0);
  /** How loud it is just now, 0 to 1. */
  const level = ref(0);
  const fault = ref('');
  const file = ref<File | null>(null);
  const address = ref('');
  let recorder: MediaRecorder | null = null;
  let stream: MediaStream | null = null;
  let context: AudioContext | null = null;
  let timer = 0;
  let begun = 0;
  let before = 0;

  function letGo(): void {
    clearInterval(timer);
    for (const track of stream?.getTracks() ?? []) track.stop();
    void context?.close();
    [stream, context, level.value] = [null, null, 0];
  }
  function watchLevel(source: MediaStream): void {
    context = new AudioContext();
    const analyser = context.createAnalyser();
    context.createMediaStreamSource(source).connect(analyser);
    const wave = new Uint8Array(analyser.fftSize);
    timer = window.setInterval(() => {
      if (state.value !== 'on') return;
      analyser.getByteTimeDomainData(wave);
      level.value = Math.max(...wave.map((v) => Math.abs(v - 128))) / 128;
      seconds.value = (before + performance.now() - begun) / 1000;
      if (seconds.value >= LONGEST) stop();
    }, 100);
  }
  async function keep(parts: readonly Blob[], type: string, ending: string): Promise<void> {
    const raw = new Blob([...parts], { type });
    // A recorded stream does not say how long it is, and could not be wound; it is told here.
    const { default: tellLength } = await import('fix-webm-duration');
    const whole = ending === 'weba' ? await tellLength(raw, Math.round(seconds.value * 1000), { logger: false }) : raw;
    file.value = new File([whole], `voice.${ending}`, { type: type.split(';')[0] ?? type });
    address.value = URL.createObjectURL(file.value);
    state.value = 'done';
  }
  async function start(): Promise<void> {
    again();
    const kind = KINDS.find(([type]) => typeof MediaRecorder !== 'undefined' && MediaRecorder.isTypeSupported(type));
    if (kind === undefined || navigator.mediaDevices === undefined) {
      fault.value = 'This browser cannot record here. Use a recent one over a secure address, or add a file.';
      return;
    }
    try {
      stream = await navigator.mediaDevices.getUserMedia({ audio: true });
    } catch (error) {
      fault.value = why(error);
      return;
    }
    const parts: Blob[] = [];
    recorder = new MediaRecorder(stream, { mimeType: kind[0], audioBitsPerSecond: 64_000 });
    recorder.ondataavailable = (event) => parts.push(event.data);
    recorder.onstop = () => {
      letGo();
      void keep(parts, kind[0], kind[1]);
    };
    recorder.start(1000);
    [begun, before] = [performance.now(), 0];
    state.value = 'on';
    watchLevel(stream);
  }
  function pause(): void {
    if (state.value === 'on') {
      recorder?.pause();
      before += performance.now() - begun;
      state.value = 'paused';
    } else {
      recorder?.resume();
      begun = performance.now();
      state.value = 'on';
    }
  }
  function stop(): void {
    if (state.value === 'on') seconds.value = (before + performance.now() - begun) / 1000;
    recorder?.stop();
  }
  /** What was recorded is let go, to begin anew. */
  function again(): void {
    if (address.value !== '') URL.revokeObjectURL(address.value);
    [file.value, address.value, seconds.value, fault.value, state.value] = [null, '', 0, '', 'idle'];
  }
  onBeforeUnmount(() => {
    if (recorder !== null) recorder.onstop = null;
    if (recorder?.state === 'recording' || recorder?.state === 'paused') recorder.stop();
    letGo();
    again();
  });
  return { state, seconds, level, fault, file, address, start, pause, stop, again };
}
