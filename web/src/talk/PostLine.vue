<script setup lang="ts">
import type { PostChange, PostView } from '@rosemary/api';
import { dayAndTime, type DocumentNode } from '@rosemary/core';
import { ref } from 'vue';
import DocumentEditor from '../parts/DocumentEditor.vue';
import DocumentView from '../parts/DocumentView.vue';
import { useCourse } from '../stores/courseStore.ts';
import ActButton from '../parts/ActButton.vue';

/** One post: its words, and what its reader may do with it. */
const props = defineProps<{
  post: PostView;
  isThread: boolean;
  canModerate: boolean;
  canWrite: boolean;
  change: (change: Omit<PostChange, 'version'>, words: string, back: Omit<PostChange, 'version'>) => Promise<boolean>;
}>();
const course = useCourse();
const editing = ref<DocumentNode | null>(null);
const when = (at: string): string => dayAndTime(Date.parse(at), course.zone, course.now);
async function save(): Promise<void> {
  if (editing.value === null || props.post.document === null) return;
  if (await props.change({ document: editing.value }, 'Your post is changed.', { document: props.post.document })) editing.value = null;
}
</script>

<template>
  <div :id="`post-${post.id}`" :class="['post', { unread: post.isUnread, hidden: post.state !== 'shown' }]">
    <p class="label who">
      <b>{{ post.author }}</b><template v-if="post.isStaff"> · teaches</template> · {{ when(post.at)
      }}<template v-if="post.isEdited"> · changed</template><template v-if="post.isUnread"> · <span class="new">new</span></template
      ><template v-if="post.state === 'hidden'"> · hidden from the course</template>
    </p>
    <p v-if="post.document === null" class="soft">
      {{ post.state === 'hidden' ? 'Hidden by an instructor.' : 'Taken back by its author.' }}
    </p>
    <template v-else-if="editing !== null">
      <DocumentEditor :model-value="editing" label="Your post" is-small @change="editing = $event" />
      <p><ActButton look="quiet" @click="save">Change it</ActButton> <ActButton look="act" @click="editing = null">leave it</ActButton></p>
    </template>
    <DocumentView v-else :document="post.document" class="words" />
    <p v-if="post.state !== 'taken back' && editing === null && (post.isOwn || canModerate)" class="acts">
      <template v-if="post.isOwn && canWrite && post.document">
        <ActButton look="act" @click="editing = post.document">change</ActButton>
        <ActButton look="act" @click="change({ isTakenBack: true }, 'Your post is taken back.', { isTakenBack: false })"
          >take back</ActButton
        >
      </template>
      <template v-if="canModerate">
        <template v-if="isThread">
          <ActButton
            look="act"
            @click="
              change({ isPinned: !post.isPinned }, post.isPinned ? 'Unpinned.' : 'Pinned: it stands first.', { isPinned: post.isPinned })
            "
          >
            {{ post.isPinned ? 'Unpin' : 'Pin' }}
          </ActButton>
          <ActButton
            look="act"
            @click="
              change({ isClosed: !post.isClosed }, post.isClosed ? 'The thread is open again.' : 'The thread is closed.', {
                isClosed: post.isClosed,
              })
            "
          >
            {{ post.isClosed ? 'open again' : 'close' }}
          </ActButton>
        </template>
        <ActButton
          look="act"
          @click="
            change({ isHidden: post.state !== 'hidden' }, post.state === 'hidden' ? 'Shown again.' : 'Hidden from the course.', {
              isHidden: post.state === 'hidden',
            })
          "
        >
          {{ post.state === 'hidden' ? 'show again' : 'hide' }}
        </ActButton>
      </template>
    </p>
  </div>
</template>

<style scoped>
.post {
  padding: 6px 0;
}
.who {
  margin: 0;
}
.new {
  color: var(--clay);
  font-weight: 600;
}
.words {
  font-size: 15px;
  line-height: 23px;
}
.words :deep(p) {
  margin-bottom: 8px;
}
.post.hidden .words {
  color: var(--soft);
}
.acts {
  display: flex;
  gap: 16px;
  font-size: 13px;
  margin: 0;
}
</style>
