<script setup lang="ts">
import PlainTable from './PlainTable.vue';
import ActButton from './ActButton.vue';

/** The keys of a view, over the page. */
defineProps<{ keys: readonly (readonly [string, string])[] }>();
const isOpen = defineModel<boolean>({ required: true });
</script>

<template>
  <v-dialog v-model="isOpen"
    ><div class="sheet pad">
      <h2>Keys of this view</h2>
      <PlainTable style="margin: 8px 0 14px">
        <tbody>
          <tr v-for="[key, what] in keys" :key="key">
            <td style="width: 120px">
              <kbd>{{ key }}</kbd>
            </td>
            <td>{{ what }}</td>
          </tr>
          <tr>
            <td><kbd>Ctrl Z</kbd></td>
            <td>undo the last thing done in this view; earlier ones are found by “undo” with Ctrl K</td>
          </tr>
          <tr>
            <td><kbd>Ctrl Shift Z</kbd></td>
            <td>do again what was undone, until something else is done</td>
          </tr>
          <tr>
            <td><kbd>Ctrl K</kbd></td>
            <td>search or run a command</td>
          </tr>
          <tr>
            <td><kbd>?</kbd></td>
            <td>these keys</td>
          </tr>
        </tbody>
      </PlainTable>
      <ActButton look="go" @click="isOpen = false">Close</ActButton>
    </div></v-dialog
  >
</template>
