<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import {
  BLOCK_DEFAULTS,
  isEmbeddable,
  type BlockName,
  type CourseFile,
  type Embed,
  type FileShown,
  type Formula,
  type Media,
  type ResponseHere,
  isWebAddress,
} from '@rosemary/api';
import { kindOfItem } from '@rosemary/core';
import { DateTime } from 'luxon';
import { computed, defineAsyncComponent, onMounted, reactive, ref } from 'vue';
import { call } from '../../platform/call.ts';
import FilePick from '../media/FilePick.vue';
import { useFileSending } from '../media/useFileSending.ts';
import VoiceRecorder from '../media/VoiceRecorder.vue';
import ActButton from '../ActButton.vue';
import TickBox from '../fields/TickBox.vue';
import { BARE_PICTURE, type Picture } from './picture.ts';
import LineField from '../fields/LineField.vue';
import ChoiceField from '../fields/ChoiceField.vue';
import TextField from '../fields/TextField.vue';

const ADDRESS = 'https://';
const DrawingForm = defineAsyncComponent(() => import('../drawing/DrawingForm.vue'));
const FormulaShown = defineAsyncComponent(() => import('./FormulaShown.vue'));
/** The form of a block: what it takes is asked for when it is inserted, and can be changed later. */
const props = defineProps<{ name: BlockName | 'picture'; attrs: object | null; courseId: string; isNew: boolean; isDrawn?: boolean }>();
const emit = defineEmits<{ save: [attrs: object]; leave: [] }>();
const start = (props.attrs ?? (props.name === 'picture' ? BARE_PICTURE : BLOCK_DEFAULTS[props.name])) as object;
const form = reactive(JSON.parse(JSON.stringify(start)) as Record<string, unknown>);
const media = form as unknown as { -readonly [K in keyof Media]: Media[K] };
const picture = form as unknown as Picture;
const formula = form as unknown as { -readonly [K in keyof Formula]: Formula[K] };
const embed = form as unknown as { -readonly [K in keyof Embed]: Embed[K] };
const shown = form as unknown as { -readonly [K in keyof FileShown]: FileShown[K] };
const question = form as unknown as { prompt: string; answers: { text: string; isRight: boolean; feedback: string }[] };
const response = form as unknown as { -readonly [K in keyof ResponseHere]: ResponseHere[K] };
if (props.name === 'question' && question.answers.length === 0)
  question.answers = [
    { text: '', isRight: true, feedback: '' },
    { text: '', isRight: false, feedback: '' },
  ];
/** Words for a picture that decorates would be read out for nothing. */
function setDecorative(isDecorative: boolean): void {
  Object.assign(picture, { isDecorative, ...(isDecorative ? { alt: '' } : {}) });
}
const hosts = ref<readonly string[]>([]);
onMounted(async () => {
  if (props.name === 'response') await listAssignments();
  if (props.name === 'embed') hosts.value = (await call(api.listEmbedHosts, {}).catch(() => ({ hosts: [] }))).hosts;
});
/** The assignments of the course, once they are read. */
const assignments = ref<readonly { readonly href: string; readonly title: string }[] | null>(null);
async function listAssignments(): Promise<void> {
  const { units } = await call(api.getPlan, { courseId: props.courseId });
  const found = units.flatMap((u) => u.items).filter((i) => kindOfItem(i.kind).reviewed === 'works');
  assignments.value = [...new Map(found.map((i) => [i.id, { href: `/courses/${props.courseId}/items/${i.id}`, title: i.title }])).values()];
}
function takeAssignment(href: string): void {
  Object.assign(response, { href, title: assignments.value?.find((a) => a.href === href)?.title ?? '' });
}
const TITLES: Readonly<Record<BlockName | 'picture', string>> = {
  picture: 'Picture',
  media: 'Video or sound',
  embed: 'A page of another site',
  fileShown: 'A file shown here',
  question: 'A question to check oneself',
  response: 'An answer handed in here',
  formula: 'Formula',
  formulaInline: 'Formula in the line',
};
const fault = computed(() => {
  switch (props.name) {
    case 'picture':
      return picture.src === ''
        ? 'Choose a picture.'
        : picture.alt.trim() === '' && !picture.isDecorative
          ? 'Say what the picture shows, or that it only decorates the page.'
          : '';
    case 'media':
      if (media.src === '') return 'Choose a file or give an address.';
      // One address that cannot be shown would keep the whole page from being saved.
      if (media.fileId === null && !(isWebAddress(media.src) && media.src.startsWith('https:')))
        return `“${media.src.slice(0, 80)}” cannot be shown in a page: its address must begin with https://.`;
      return media.title.trim() === '' ? 'Say what is seen or heard.' : '';
    case 'embed':
      if (embed.src.trim() === '') return 'Give an address.';
      return isEmbeddable(embed.src.trim(), hosts.value)
        ? embed.title.trim() === ''
          ? 'Say what is shown.'
          : ''
        : `Shown inside a page are only: ${hosts.value.length === 0 ? 'no sites yet' : hosts.value.join(', ')}. An administrator keeps this list; a link always works.`;
    case 'fileShown':
      return shown.fileId === '' ? 'Choose a file.' : '';
    case 'question':
      if (question.prompt.trim() === '') return 'Type the question.';
      if (question.answers.some((a) => a.text.trim() === '')) return 'Type every answer, or remove it.';
      return question.answers.some((a) => a.isRight) ? '' : 'Mark a right answer.';
    case 'response':
      return response.href === '' ? 'Choose the assignment.' : '';
    default:
      return formula.tex.trim() === '' ? 'Type the formula.' : '';
  }
});
const isDrawing = ref(props.isDrawn === true);
const sending = useFileSending();
const { share, fault: notSent } = sending;
/** What was made here becomes a file of the course, named by when. */
async function keep(made: File, word: string): Promise<CourseFile | null> {
  const ending = made.name.split('.').at(-1) ?? '';
  sending.file.value = new File([made], `${word} ${DateTime.now().toFormat('yyyy-MM-dd HH.mm.ss')}.${ending}`, { type: made.type });
  return sending.carry(api.addFile, { courseId: props.courseId ?? '' });
}
async function keepVoice(made: File): Promise<void> {
  const file = await keep(made, 'Voice');
  if (file === null) return;
  takeMedia(file);
}
async function keepDrawing(made: File, drawing: string): Promise<void> {
  const file = await keep(made, 'Diagram');
  if (file === null) return;
  Object.assign(picture, { fileId: file.id, src: file.url, drawing });
  isDrawing.value = false;
}
function leaveDrawing(): void {
  if (picture.src === '') emit('leave');
  else isDrawing.value = false;
}
function takeMedia(file: CourseFile): void {
  Object.assign(media, { fileId: file.id, src: file.url, kind: file.mediaType.startsWith('audio') ? 'audio' : 'video' });
  if (media.title === '') media.title = file.name.replace(/\.\w+$/, '');
}
function takeAddress(address: string): void {
  Object.assign(media, { fileId: null, src: address.trim(), kind: /\.(mp3|m4a|ogg|wav|weba)(\?|$)/i.test(address) ? 'audio' : 'video' });
}
const asOpened = JSON.stringify(form);
/** Escape leaves a form in which nothing was typed; what was is not lost by a key. */
function escape(): void {
  if (JSON.stringify(form) === asOpened) emit('leave');
}
function save(): void {
  if (fault.value === '') emit('save', JSON.parse(JSON.stringify(form)) as object);
}
</script>

<template>
  <div v-if="isDrawing" class="sheet pad block-form wide">
    <h2>Diagram</h2>
    <DrawingForm :kept="picture.drawing" @done="keepDrawing" @leave="leaveDrawing" />
    <p v-if="share !== null" role="status">It is on its way: {{ Math.round(share * 100) }} %</p>
    <p v-if="notSent" class="fault" role="alert">{{ notSent }} Your drawing is still here.</p>
  </div>
  <form v-else class="sheet pad block-form" @submit.prevent="save" @keydown.esc="escape">
    <h2>{{ TITLES[name] }}</h2>
    <template v-if="name === 'picture'">
      <FilePick
        :course-id="courseId"
        accept="image/png,image/jpeg,image/webp"
        :kinds="/^image\//"
        words="a picture"
        @choose="Object.assign(picture, { fileId: $event.id, src: $event.url, drawing: '' })"
      />
      <p>
        <ActButton look="act" @click="isDrawing = true">
          {{ picture.drawing === '' ? 'or draw a diagram here' : 'Draw on at this diagram' }}
        </ActButton>
      </p>
      <img v-if="picture.src" :src="picture.src" alt="" class="preview" />
      <label class="field"
        ><span class="label">What it shows; someone who cannot see it hears this instead</span
        ><LineField v-model="picture.alt" maxlength="400" :disabled="picture.isDecorative"
      /></label>
      <label class="field"
        ><TickBox :model-value="picture.isDecorative" @update:model-value="setDecorative($event === true)" /> It only decorates the page,
        and shows nothing that matters</label
      >
      <label class="field"><span class="label">Caption, if it has one</span><LineField v-model="picture.caption" maxlength="300" /></label>
      <div class="pair">
        <label class="field"><span class="label">Source</span><LineField v-model="picture.source" maxlength="300" /></label
        ><label class="field"><span class="label">Licence</span><LineField v-model="picture.licence" maxlength="120" /></label>
      </div>
      <label class="field"
        ><span class="label">Width</span
        ><ChoiceField v-model="picture.size">
          <option value="full">the whole column</option>
          <option value="half">half of it</option>
          <option value="small">a quarter</option>
        </ChoiceField></label
      >
    </template>
    <template v-else-if="name === 'media'">
      <FilePick :course-id="courseId" accept="audio/*,video/*" :kinds="/^(audio|video)\//" words="a video or sound" @choose="takeMedia" />
      <VoiceRecorder :is-busy="share !== null" @use="keepVoice" />
      <p v-if="notSent" class="fault" role="alert">{{ notSent }} Your recording is still here.</p>
      <label class="field"
        ><span class="label">or its address, beginning with https://</span
        ><LineField
          inputmode="url"
          :model-value="media.fileId === null ? media.src : ''"
          @change="takeAddress(($event.target as HTMLInputElement).value)"
      /></label>
      <p v-if="media.src" class="label">
        {{ media.kind === 'audio' ? 'sound' : 'video' }}: {{ media.fileId === null ? media.src : 'a file of this course' }}
      </p>
      <label class="field"><span class="label">What is seen or heard</span><LineField v-model="media.title" maxlength="300" /></label>
      <template v-if="media.kind === 'video'">
        <p class="label">Captions (WebVTT){{ media.captionsId ? ': chosen' : ': none yet' }}</p>
        <FilePick
          :course-id="courseId"
          accept=".vtt,text/vtt"
          :kinds="/^text\/vtt$/"
          words="captions"
          @choose="Object.assign(media, { captionsId: $event.id, captionsSrc: $event.url })"
        />
      </template>
      <div class="pair">
        <label class="field"><span class="label">Source</span><LineField v-model="media.source" maxlength="300" /></label
        ><label class="field"><span class="label">Licence</span><LineField v-model="media.licence" maxlength="120" /></label>
      </div>
    </template>
    <template v-else-if="name === 'embed'">
      <label class="field"
        ><span class="label">Address</span><LineField v-model="embed.src" inputmode="url" :placeholder="ADDRESS"
      /></label>
      <label class="field"><span class="label">What is shown</span><LineField v-model="embed.title" maxlength="300" /></label>
    </template>
    <template v-else-if="name === 'fileShown'">
      <FilePick
        :course-id="courseId"
        accept=""
        :kinds="/./"
        words="a file"
        @choose="Object.assign(shown, { fileId: $event.id, src: $event.url, name: $event.name, mediaType: $event.mediaType })"
      />
      <p v-if="shown.name">{{ shown.name }}</p>
    </template>
    <template v-else-if="name === 'question'">
      <label class="field"><span class="label">Question</span><TextField v-model="question.prompt" rows="2" maxlength="1000" /> </label>
      <fieldset v-for="(answer, n) in question.answers" :key="n" class="answer">
        <legend class="label">Answer {{ n + 1 }}</legend>
        <label class="right"><TickBox v-model="answer.isRight" /> right</label>
        <LineField v-model="answer.text" maxlength="500" :aria-label="`Answer ${n + 1}`" />
        <ActButton
          v-if="question.answers.length > 2"
          look="act"
          :aria-label="`Take answer ${n + 1} away`"
          @click="question.answers.splice(n, 1)"
          >Remove</ActButton
        >
        <LineField
          v-model="answer.feedback"
          class="soft said"
          maxlength="500"
          :aria-label="`Feedback for answer ${n + 1}`"
          placeholder="Feedback for whoever chooses it"
        />
      </fieldset>
      <p>
        <ActButton v-if="question.answers.length < 8" look="act" @click="question.answers.push({ text: '', isRight: false, feedback: '' })">
          Add answer
        </ActButton>
      </p>
    </template>
    <template v-else-if="name === 'response'">
      <p v-if="assignments?.length === 0" class="soft">
        The course has no assignment yet. Add one to the Plan: it says what is asked, when it is due and who assesses it.
      </p>
      <template v-else>
        <label class="field"
          ><span class="label">Assignment</span>
          <ChoiceField :model-value="response.href" @change="takeAssignment">
            <option value="">choose one</option>
            <option v-for="a in assignments ?? []" :key="a.href" :value="a.href">{{ a.title }}</option>
          </ChoiceField></label
        >
        <p class="soft">Students write and hand in here, in the page. Dates, points and who assesses it are those of the assignment.</p>
      </template>
    </template>
    <template v-else>
      <label class="field"
        ><span class="label">In TeX, as \frac{z_1}{z_2}</span
        ><TextField v-model="formula.tex" class="code" rows="3" maxlength="4000" spellcheck="false" />
      </label>
      <p v-if="formula.tex.trim() !== ''" class="preview" aria-live="polite">
        <FormulaShown :key="formula.tex" :tex="formula.tex" :is-inline="name === 'formulaInline'" />
      </p>
    </template>
    <p v-if="fault" class="label" role="status">{{ fault }}</p>
    <p class="acts">
      <ActButton type="submit" look="go" :disabled="fault !== ''">{{ isNew ? 'Insert' : 'Change it' }}</ActButton>
      <ActButton look="quiet" @click="emit('leave')">Leave it</ActButton>
    </p>
  </form>
</template>

<style scoped>
.block-form {
  width: 560px;
  margin: 0 auto;
  max-width: 92vw;
  max-height: 84vh;
  overflow: auto;
}
.block-form.wide {
  width: 1080px;
}
.preview {
  object-fit: contain;
  object-position: left;
  max-height: 160px;
  max-width: 100%;
  margin: 8px 0;
}
.acts {
  margin: 10px 0 0;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 14px;
}
.answer {
  border: 0;
  padding: 0;
  margin: 0 0 10px;
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 2px 10px;
  align-items: baseline;
}
.answer legend {
  float: left;
  grid-column: 1 / -1;
}
.said {
  grid-column: 2;
}
.code {
  font-family: ui-monospace, monospace;
}
</style>
