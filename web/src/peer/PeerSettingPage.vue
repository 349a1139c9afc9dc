<script setup lang="ts">
import type { DocumentNode } from '@rosemary/core';
import { countOf } from '@rosemary/core';
import { computed, onMounted } from 'vue';
import { useRoute } from 'vue-router';
import RubricEditor from '../rubric/RubricEditor.vue';
import ActButton from '../parts/ActButton.vue';
import DocumentEditor from '../parts/DocumentEditor.vue';
import { usePageTitle } from '../platform/usePageTitle.ts';
import { useSaving } from '../platform/useSaving.ts';
import { useCourse } from '../stores/courseStore.ts';
import PeerChoicesPart from './PeerChoicesPart.vue';
import SamplesPart from './SamplesPart.vue';
import { usePeerSetting } from './usePeerSetting.ts';

/** Who else reads the works of an assignment: what they look for, by which form, how many, when, and what comes of it. */
const route = useRoute();
const course = useCourse();
const base = computed(() => ({ courseId: String(route.params.courseId), itemId: String(route.params.itemId) }));
const { found, fault, words, load, set, turn } = usePeerSetting(base);
usePageTitle(() => found.value?.item.title);
const canEdit = computed(() => course.head?.role === 'instructor' && course.head.isArchived !== true);
const saving = useSaving<DocumentNode>(
  () => `prompt ${base.value.itemId}`,
  async (prompt) => {
    if (!(await set({ prompt }))) throw new Error(fault.value);
    return null;
  },
);
onMounted(load);
const TITLES = { works: 'The assignment', posts: 'The discussion', essays: 'The quiz' } as const;
const OFFERS = {
  works: 'Nobody but those who mark reads the works of this assignment.',
  posts:
    'Everybody reads what is written in this discussion, and nobody assesses it but who teaches. What each student wrote can be reviewed as one work.',
  essays:
    'Nobody but those who mark reads the essays of this quiz. Those of each student can be reviewed as one work, once the attempt is handed in.',
} as const;
</script>

<template>
  <div class="peer-setting">
    <div v-if="fault && !found" class="pad">
      <h1>This cannot be opened</h1>
      <p class="fault" role="alert">{{ fault }} <ActButton look="act" @click="load">Try again</ActButton></p>
    </div>
    <div v-else-if="!found" class="pad"><div v-for="n in 8" :key="n" class="skeleton" style="height: 18px; margin-top: 10px" /></div>
    <template v-else>
      <div class="sheet">
        <header class="title-line">
          <h1>{{ found.item.title }}</h1>
          <span class="soft">who else reads it</span>
          <router-link class="act end" :to="{ name: found.item.reviewed === 'essays' ? 'quiz' : 'item', params: base }">{{
            TITLES[found.item.reviewed]
          }}</router-link>
          <router-link v-if="found.setting.isOn" class="act" :to="{ name: 'peer-board', params: base }">Watch the reviews</router-link>
        </header>
        <section v-if="!found.setting.isOn" class="offer">
          <p>{{ OFFERS[found.item.reviewed] }}</p>
          <p class="soft">
            Students can read and assess each other’s works: with a prompt and a form that are ready to be changed, each work by three
            others, names hidden, a week after the works are due.
          </p>
          <ActButton v-if="canEdit" look="go" @click="turn(true)">Let students review each other</ActButton>
          <p v-else class="soft">An instructor of the course can change this.</p>
        </section>
        <template v-else>
          <section aria-label="What keeps it from running" class="state">
            <p v-if="found.faults.length === 0" class="label">
              It runs by itself: works are given out, reviews and results come at their dates.
            </p>
            <ul v-else>
              <li v-for="f in found.faults" :key="f.text" :class="f.weight === 'mend' ? 'clay' : 'soft'">
                <b>{{ f.weight === 'mend' ? 'To mend' : 'To look at' }}:</b> {{ f.text }}
              </li>
            </ul>
          </section>
          <h2>What to look for</h2>
          <DocumentEditor
            :model-value="found.setting.prompt"
            label="What to look for"
            :course-id="base.courseId"
            :is-fixed="!canEdit"
            @change="saving.push($event)"
          />
          <p class="label saved" role="status">{{ saving.words.value }}</p>
          <p v-if="found.given > 0" class="soft">
            {{ countOf(found.given, 'review is', 'reviews are') }} handed in already. They keep the form they were given by; a new form
            holds for those to come.
          </p>
          <RubricEditor
            :base="base"
            :title="found.item.title"
            :rubric="found.form"
            :possible="found.item.possible"
            :can-edit="canEdit"
            is-of-reviews
            @saved="load"
          />
          <SamplesPart :found="found" :base="base" :can-edit="canEdit" :set="set" @changed="found = $event" />
        </template>
      </div>
      <PeerChoicesPart
        v-if="found.setting.isOn"
        :found="found"
        :base="base"
        :can-edit="canEdit"
        :words="words"
        :fault="fault"
        :set="set"
        @off="turn(false)"
      />
    </template>
  </div>
</template>

<style src="./peer.css"></style>
