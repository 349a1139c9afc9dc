<script setup lang="ts">
import type { StoreFile, StoreFolder } from '@rosemary/api';
import { dayAndTime, sizeInWords } from '@rosemary/core';
import { computed, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import DateField from '../parts/DateField.vue';
import FileInPlace from '../parts/blocks/FileInPlace.vue';
import LineInput from '../parts/LineInput.vue';
import { useCourse } from '../stores/courseStore.ts';
import { useStore } from './useStore.ts';
import ActButton from '../parts/ActButton.vue';
import TickBox from '../parts/fields/TickBox.vue';
import PlainTable from '../parts/PlainTable.vue';
import FileInput from '../parts/media/FileInput.vue';
import ProgressBar from '../parts/ProgressBar.vue';
import LineField from '../parts/fields/LineField.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';

const route = useRoute();
const course = useCourse();
const courseId = computed(() => String(route.params.courseId));
const s = useStore(courseId);
const { store, arriving } = s;
const canEdit = computed(() => course.head?.role === 'instructor');
const folderId = ref<string | null>(null);
const chosenId = ref<string | null>(null);
const onlyUnused = ref(false);
const isOver = ref(false);
const naming = ref<string | null>(null);
const picker = ref<InstanceType<typeof FileInput> | null>(null);
const replacing = ref<InstanceType<typeof FileInput> | null>(null);
onMounted(s.load);

const isUnused = (f: StoreFile): boolean => f.uses.length === 0 && !f.isPicture;
const folder = computed(() => store.value?.folders.find((f) => f.id === folderId.value) ?? null);
const folders = computed(() => store.value?.folders.filter((f) => f.parentId === folderId.value) ?? []);
const files = computed(() => store.value?.files.filter((f) => (onlyUnused.value ? isUnused(f) : f.folderId === folderId.value)) ?? []);
const chosen = computed(() => store.value?.files.find((f) => f.id === chosenId.value) ?? null);
const unused = computed(() => store.value?.files.filter(isUnused) ?? []);
/** The folders above, from the outermost. */
const path = computed(() => {
  const way: StoreFolder[] = [];
  for (let at = folder.value; at !== null; at = store.value?.folders.find((f) => f.id === at?.parentId) ?? null) way.unshift(at);
  return way;
});
const titleOf = (f: StoreFolder): string => {
  const above = store.value?.folders.find((o) => o.id === f.parentId);
  return above === undefined ? f.title : `${titleOf(above)} / ${f.title}`;
};
const when = (at: string): string => dayAndTime(Date.parse(at), course.zone, course.now);
function inTime(one: { opensAt: string | null; closesAt: string | null }): string {
  return [one.opensAt === null ? null : `from ${when(one.opensAt)}`, one.closesAt === null ? null : `until ${when(one.closesAt)}`]
    .filter(Boolean)
    .join(' ');
}
function take(list: readonly File[]): void {
  isOver.value = false;
  if (list.length > 0 && canEdit.value) void s.add([...list], folderId.value);
}
function onReplace([file]: readonly File[]): void {
  if (file && chosen.value) void s.replace(chosen.value, file);
}
async function makeFolder(): Promise<void> {
  const title = (naming.value ?? '').trim();
  naming.value = null;
  if (title !== '') await s.addFolder(title, folderId.value);
}
const rename = (file: StoreFile, name: string): void => {
  if (name.trim() !== '' && name.trim() !== file.name) void s.changeFile(file, { name: name.trim() }, `It is called “${name.trim()}” now.`);
};
</script>

<template>
  <div class="two" style="flex: 1">
    <section
      :class="['files', { over: isOver }]"
      aria-label="Files"
      @dragover.prevent="isOver = canEdit"
      @dragleave.self="isOver = false"
      @drop.prevent="take([...($event.dataTransfer?.files ?? [])])"
    >
      <div class="top">
        <span>
          <ActButton look="act" @click="((folderId = null), (onlyUnused = false))">Files</ActButton>
          <template v-for="f in path" :key="f.id">
            / <ActButton look="act" @click="folderId = f.id">{{ f.title }}</ActButton></template
          >
        </span>
        <span v-if="store" class="soft"
          >{{ store.files.length }} {{ store.files.length === 1 ? 'file' : 'files' }}, {{ sizeInWords(store.bytes) }}</span
        >
        <span style="margin-left: auto" class="acts">
          <label v-if="unused.length > 0"><TickBox v-model="onlyUnused" /> shown nowhere ({{ unused.length }})</label>
          <ActButton v-if="canEdit" look="act" @click="naming = ''">Add folder</ActButton>
          <ActButton v-if="canEdit" look="act" @click="picker?.open()">Add files</ActButton>
        </span>
        <FileInput ref="picker" label="Files to add" is-many @choose="take" />
      </div>
      <p v-if="s.fault.value" class="fault">{{ s.fault.value }}</p>
      <form v-if="naming !== null" class="naming" @submit.prevent="makeFolder">
        <LineField
          v-model="naming"
          maxlength="160"
          aria-label="Title of the folder"
          placeholder="Title of the folder, then Enter"
          takes-focus
          @keydown.esc="naming = null"
        />
      </form>
      <ul v-if="arriving.length > 0" class="arriving" aria-live="polite">
        <li v-for="(a, n) in arriving" :key="n">
          {{ a.name }}
          <template v-if="a.fault"
            ><span class="fault">{{ a.fault }}</span> <ActButton look="act" @click="s.forget(a)">forget it</ActButton></template
          >
          <template v-else
            ><ProgressBar :share="a.share" :label="`Sent of ${a.name}`" />
            <ActButton look="act" @click="s.forget(a)">cancel</ActButton></template
          >
        </li>
      </ul>
      <template v-if="!store && !s.fault.value"
        ><div v-for="n in 6" :key="n" class="skeleton" style="height: 22px; margin: 9px 0"
      /></template>
      <PlainTable v-if="store && folders.length + files.length > 0">
        <thead>
          <tr>
            <th>Name</th>
            <th>Shown in</th>
            <th class="num">Size</th>
            <th>Added</th>
          </tr>
        </thead>
        <tbody>
          <template v-if="!onlyUnused">
            <tr v-for="f in folders" :key="f.id">
              <td>
                <ActButton look="act" @click="folderId = f.id">
                  <svg width="14" height="12" viewBox="0 0 14 12" aria-hidden="true">
                    <path d="M1 2h4l1.500 1.500h6.500v7h-12z" fill="none" stroke="currentColor" />
                  </svg>
                  {{ f.title }}
                </ActButton>
              </td>
              <td class="soft">{{ inTime(f) }}</td>
              <td />
              <td />
            </tr>
          </template>
          <tr v-for="f in files" :key="f.id" :class="{ on: f.id === chosenId }">
            <td>
              <ActButton look="act" class="name" @click="chosenId = f.id">{{ f.name }}</ActButton>
            </td>
            <td class="soft">
              {{
                isUnused(f)
                  ? 'nowhere'
                  : f.uses.length === 0
                    ? 'the course’s picture'
                    : f.uses.length === 1
                      ? f.uses[0]?.title
                      : `${f.uses.length} items`
              }}
              {{ inTime(f) }}
            </td>
            <td class="num">{{ sizeInWords(f.size) }}</td>
            <td class="soft">{{ when(f.addedAt) }}</td>
          </tr>
        </tbody>
      </PlainTable>
      <p v-else-if="store" class="soft empty">
        {{ folder ? 'This folder is empty.' : 'Files of the course will stand here: what pages show and what students take with them.' }}
        <template v-if="canEdit">Drop files here, or <ActButton look="act" @click="picker?.open()">choose them</ActButton>.</template>
      </p>
      <p v-if="onlyUnused && unused.length > 0 && canEdit">
        <ActButton look="act" @click="s.removeFiles(unused)"
          >Delete {{ unused.length === 1 ? 'this one' : `these ${unused.length}` }}</ActButton
        >
      </p>
    </section>
    <aside v-if="chosen" class="inspector" aria-label="File">
      <div class="head"><span class="label">File</span><ActButton look="act" @click="chosenId = null">close</ActButton></div>
      <fieldset :key="`${chosen.id} ${chosen.version}`" :disabled="!canEdit">
        <label class="field"
          ><span class="label">Name</span><LineInput maxlength="200" :value="chosen.name" @commit="rename(chosen, $event)"
        /></label>
        <label class="field"
          ><span class="label">Folder</span
          ><ChoiceField
            :model-value="chosen.folderId ?? ''"
            @change="s.changeFile(chosen, { folderId: $event }, `“${chosen.name}” is moved.`)"
          >
            <option value="">none</option>
            <option v-for="f in store?.folders" :key="f.id" :value="f.id">{{ titleOf(f) }}</option>
          </ChoiceField></label
        >
        <DateField
          :model-value="chosen.opensAt"
          label="Students have it from"
          time="08:00"
          :zone="course.zone"
          :now="course.now"
          :is-fixed="!canEdit"
          @change="s.changeFile(chosen, { opensAt: $event }, 'Its dates are changed.')"
        />
        <DateField
          :model-value="chosen.closesAt"
          label="until"
          :zone="course.zone"
          :now="course.now"
          :is-fixed="!canEdit"
          @change="s.changeFile(chosen, { closesAt: $event }, 'Its dates are changed.')"
        />
      </fieldset>
      <FileInPlace
        :key="chosen.id + chosen.version"
        :file="{ fileId: chosen.id, src: chosen.url, name: chosen.name, mediaType: chosen.mediaType }"
      />
      <p class="label">Shown in</p>
      <ul>
        <li v-for="u in chosen.uses" :key="u.itemId">
          <router-link :to="{ name: 'item', params: { courseId, itemId: u.itemId } }">{{ u.title }}</router-link>
        </li>
        <li v-if="chosen.isPicture">it is the picture of the course</li>
        <li v-if="isUnused(chosen)" class="soft">nothing, so no student reaches it</li>
      </ul>
      <template v-if="chosen.past.length > 0">
        <p class="label">It held before</p>
        <ul>
          <li v-for="p in chosen.past" :key="p.id">
            {{ p.name }} <span class="label">until {{ when(p.until) }}, {{ p.by }}</span>
            <ActButton v-if="canEdit" look="act" @click="s.takePast(chosen, p.id)">Restore</ActButton>
          </li>
        </ul>
      </template>
      <div v-if="canEdit" class="acts">
        <ActButton look="act" @click="replacing?.open()">Replace it where it stands</ActButton>
        <ActButton look="act" @click="s.removeFiles([chosen])">Delete</ActButton>
        <FileInput ref="replacing" label="The file in its place" @choose="onReplace" />
      </div>
    </aside>
    <aside v-else-if="folder && canEdit" class="inspector" aria-label="Folder">
      <span class="label">Folder</span>
      <div :key="`${folder.id} ${folder.version}`">
        <label class="field"
          ><span class="label">Title</span
          ><LineInput
            maxlength="160"
            :value="folder.title"
            @commit="$event.trim() !== '' && s.changeFolder(folder, { title: $event.trim() }, 'The folder has another title.')"
        /></label>
        <DateField
          :model-value="folder.opensAt"
          label="Students have what is in it from"
          time="08:00"
          :zone="course.zone"
          :now="course.now"
          @change="s.changeFolder(folder, { opensAt: $event }, 'Its dates are changed.')"
        />
        <DateField
          :model-value="folder.closesAt"
          label="until"
          :zone="course.zone"
          :now="course.now"
          @change="s.changeFolder(folder, { closesAt: $event }, 'Its dates are changed.')"
        />
        <ActButton look="act" @click="s.removeFolder(folder).then(() => (folderId = folder?.parentId ?? null))"
          >Delete the folder</ActButton
        >
      </div>
    </aside>
    <aside v-else class="inspector soft">
      Choose a file to see where it is shown, replace it where it stands, or say from when students have it.
    </aside>
  </div>
</template>

<style scoped>
.files {
  flex: 1;
  min-width: 0;
  padding: 14px 26px 40px;
}
.files.over {
  outline: 2px dashed var(--bloom);
  outline-offset: -8px;
}
.top,
.head,
.acts {
  display: flex;
  gap: 18px;
  align-items: baseline;
  flex-wrap: wrap;
}
.head {
  justify-content: space-between;
}
.arriving,
ul {
  list-style: none;
  margin: 8px 0;
  padding: 0;
}
.name {
  text-align: left;
  overflow-wrap: anywhere;
}
.empty,
.naming {
  padding-top: 18px;
}
.plain {
  margin-top: 12px;
}
</style>
