import { flushPromises, mount, type VueWrapper } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { defineComponent, h, ref, watch, type Component } from 'vue';
import { createMemoryHistory, createRouter, type Router } from 'vue-router';
import type { DocumentNode } from '@rosemary/core';
import * as VBtn from 'vuetify/components/VBtn';
import * as VCheckbox from 'vuetify/components/VCheckbox';
import * as VIcon from 'vuetify/components/VIcon';
import * as VProgressLinear from 'vuetify/components/VProgressLinear';
import * as VRadio from 'vuetify/components/VRadio';
import * as VTable from 'vuetify/components/VTable';
import * as VTextarea from 'vuetify/components/VTextarea';
import * as VTextField from 'vuetify/components/VTextField';
import { keyOf, readChoices } from '../src/parts/fields/choices.ts';
import { makeVuetify } from '../src/platform/vuetify.ts';

/** The components of Vuetify that the parts are made of, by name, as the build finds them by itself. */
const COMPONENTS = { ...VBtn, ...VCheckbox, ...VIcon, ...VProgressLinear, ...VRadio, ...VTable, ...VTextarea, ...VTextField };

export const words = (text: string): DocumentNode => ({
  type: 'doc',
  content: [{ type: 'paragraph', content: text === '' ? [] : [{ type: 'text', text }] }],
});

/** In place of the editor: a field whose words are the document, and which can be given another from outside. */
export const PlainEditor = defineComponent({
  name: 'PlainEditor',
  props: { modelValue: { type: Object, default: null }, label: { type: String, default: '' } },
  emits: ['change'],
  setup(props, { emit, expose, slots }) {
    const replaced: DocumentNode[] = [];
    expose({ replace: (document: DocumentNode) => replaced.push(document), replaced });
    const textOf = (node: DocumentNode | null): string => node?.text ?? (node?.content ?? []).map(textOf).join('');
    return () =>
      h('div', [
        h('textarea', {
          'aria-label': props.label,
          value: textOf((replaced.at(-1) ?? props.modelValue) as DocumentNode | null),
          onInput: (event: Event) => {
            emit('change', words((event.target as HTMLTextAreaElement).value));
          },
        }),
        slots.state?.(),
      ]);
  },
});

/** In place of a list that opens: a plain one, so that a page is tried without what a list does by itself. */
const PlainChoice = defineComponent({
  name: 'PlainChoice',
  props: {
    modelValue: { type: null, default: undefined },
    disabled: Boolean,
    isWord: Boolean,
    onChange: { type: Function, default: null },
  },
  emits: ['update:modelValue'],
  setup(props, { emit, slots }) {
    const kept = ref(props.modelValue as unknown);
    watch(
      () => props.modelValue as unknown,
      (value) => (kept.value = value),
    );
    return () => {
      const choices = readChoices(slots.default?.());
      return h(
        'select',
        {
          value: keyOf(kept.value),
          disabled: props.disabled,
          onChange: async (event: Event) => {
            const picked = choices.find((choice) => keyOf(choice.value) === (event.target as HTMLSelectElement).value)?.value;
            kept.value = picked;
            emit('update:modelValue', picked);
            await props.onChange?.(picked);
            kept.value = props.modelValue;
          },
        },
        choices.map((choice) => h('option', { value: keyOf(choice.value), disabled: choice.isOff }, choice.title)),
      );
    };
  },
});

/** In place of a menu that floats: what is in it stands beside its button while it is open. */
const PlainMenu = defineComponent({
  name: 'PlainMenu',
  inheritAttrs: false,
  emits: ['update:modelValue'],
  setup(_, { emit, slots }) {
    const isOpen = ref(false);
    const props = {
      onClick: () => {
        isOpen.value = !isOpen.value;
        emit('update:modelValue', isOpen.value);
      },
    };
    return () => [slots.activator?.({ props }), isOpen.value ? slots.default?.() : null];
  },
});
/** In place of a dialog over the page: what is in it stands in its place while it is open. */
const PlainDialog = defineComponent({
  name: 'PlainDialog',
  inheritAttrs: false,
  props: { modelValue: Boolean },
  setup:
    (props, { slots }) =>
    () =>
      props.modelValue ? slots.default?.() : null,
});
/** Opens a menu by the name of its button and does one of the things in it. */
export async function choose(shown: VueWrapper, label: string, value: string): Promise<void> {
  await shown.find(`button[aria-label="${label}"]`).trigger('click');
  await shown.find(`[role="menuitem"][data-value="${value}"]`).trigger('click');
}

const BARE = { template: '<div />' };
export function makeTestRouter(): Router {
  return createRouter({
    history: createMemoryHistory(),
    routes: [
      { path: '/courses/:courseId/items/:itemId', name: 'item', component: BARE },
      { path: '/courses/:courseId/items/:itemId/peer', name: 'peer-setting', component: BARE },
      { path: '/courses/:courseId/items/:itemId/reviews', name: 'peer-board', component: BARE },
      { path: '/courses/:courseId/items/:itemId/peer/samples/:sampleId', name: 'peer-sample', component: BARE },
      { path: '/courses/:courseId/study/:itemId', name: 'study-item', component: BARE },
      { path: '/courses/:courseId/study/:itemId/reviews/:reviewId', name: 'own-review', component: BARE },
      { path: '/courses/:courseId/study/:itemId/samples/:sampleId', name: 'own-sample', component: BARE },
      { path: '/courses/:courseId/study/:itemId/shown/:workId', name: 'shown-work', component: BARE },
      { path: '/courses/:courseId/marking/:itemId/:enrolmentId', name: 'work', component: BARE },
      { path: '/courses/:courseId/items/:itemId/quiz', name: 'quiz', component: BARE },
      { path: '/courses/:courseId/plan', name: 'plan', component: BARE },
      { path: '/courses/:courseId/groups', name: 'groups', component: BARE },
      { path: '/courses/:courseId/gradebook', name: 'gradebook', component: BARE },
      { path: '/courses/:courseId/finals', name: 'finals', component: BARE },
      { path: '/courses/:courseId/settings', name: 'settings', component: BARE },
      { path: '/courses/:courseId/exchange', name: 'exchange', component: BARE },
      { path: '/courses/:courseId/marking/:itemId', name: 'stack', component: BARE },
      { path: '/courses/:courseId/progress', name: 'progress', component: BARE },
      { path: '/courses/:courseId/students/:enrolmentId', name: 'student', component: BARE },
      { path: '/courses/:courseId/check', name: 'check', component: BARE },
      { path: '/courses/:courseId/quizzes/:itemId/results', name: 'quiz-results', component: BARE },
      { path: '/courses/:courseId/messages', name: 'messages', component: BARE },
      { path: '/courses/:courseId/grades', name: 'grades', component: BARE },
      { path: '/courses/:courseId/dates', name: 'dates', component: BARE },
      { path: '/courses/:courseId/give', name: 'give', component: BARE },
      { path: '/courses/:courseId/given', name: 'given', component: BARE },
      { path: '/courses/:courseId/carry', name: 'carry', component: BARE },
      { path: '/school', name: 'school', component: BARE },
      { path: '/school/lists', name: 'school-lists', component: BARE },
      { path: '/courses/:courseId/roster', name: 'roster', component: BARE },
      { path: '/courses/:courseId/own/week', name: 'own-week', component: BARE },
      { path: '/courses/:courseId/my-progress', name: 'own-progress', component: BARE },
      { path: '/courses/:courseId/programme', name: 'programme', component: BARE },
      { path: '/:any(.*)*', name: 'other', component: BARE },
    ],
  });
}

let warnings: string[] = [];
const mounted: VueWrapper[] = [];
/** Each test begins with stores of its own; a warning of Vue in it is a fault. */
export function beginMounting(): void {
  setActivePinia(createPinia());
  warnings = [];
}
export function endMounting(): void {
  for (const one of mounted.splice(0)) one.unmount();
  if (warnings.length > 0) throw new Error(`Vue warned:\n${warnings.join('\n')}`);
}

async function mountWith(component: Component, props: object, router: Router, before: () => void, stubs: object): Promise<VueWrapper> {
  const pinia = createPinia();
  setActivePinia(pinia);
  before();
  const one = mount(component, {
    props: props as never,
    attachTo: document.body,
    global: {
      plugins: [pinia, router, makeVuetify()],
      components: COMPONENTS,
      stubs: stubs as Record<string, boolean>,
      config: { warnHandler: (text) => warnings.push(text) },
    },
  });
  mounted.push(one);
  await flushPromises();
  return one;
}

/** A component as it stands in a page: with stores, a router and the plain editor. `before` lays out what the stores hold. */
export const show = (
  component: Component,
  props: object,
  router: Router = makeTestRouter(),
  before: () => void = () => undefined,
): Promise<VueWrapper> =>
  mountWith(component, props, router, before, {
    ...{ DocumentEditor: PlainEditor, ChoiceField: PlainChoice, FloatMenu: PlainMenu },
    ...{ VDialog: PlainDialog, VTooltip: true, VMenu: true },
  });

/** A part by itself, with all that it is made of. */
export const showPart = (component: Component): Promise<VueWrapper> => mountWith(component, {}, makeTestRouter(), () => undefined, {});

/** What a composable gives, as it does inside a component: with stores, and gone at the end of the test. */
export async function inPage<T>(use: () => T): Promise<T> {
  let given: T | undefined;
  await show(
    defineComponent({
      setup() {
        given = use();
        return () => null;
      },
    }),
    {},
  );
  return given as T;
}
