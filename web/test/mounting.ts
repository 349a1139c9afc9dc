import { flushPromises, mount, type VueWrapper } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { defineComponent, h, type Component } from 'vue';
import { createMemoryHistory, createRouter, type Router } from 'vue-router';
import type { DocumentNode } from '@rosemary/core';
import * as VBtn from 'vuetify/components/VBtn';
import * as VCheckbox from 'vuetify/components/VCheckbox';
import * as VProgressLinear from 'vuetify/components/VProgressLinear';
import * as VRadio from 'vuetify/components/VRadio';
import * as VTable from 'vuetify/components/VTable';
import { makeVuetify } from '../src/platform/vuetify.ts';

/** The components of Vuetify that the parts are made of, by name, as the build finds them by itself. */
const COMPONENTS = { ...VBtn, ...VCheckbox, ...VProgressLinear, ...VRadio, ...VTable };

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

const BARE = { template: '<div />' };
export function makeTestRouter(): Router {
  return createRouter({
    history: createMemoryHistory(),
    routes: [
      { path: '/courses/:courseId/items/:itemId', name: 'item', component: BARE },
      { path: '/courses/:courseId/items/:itemId/quiz', name: 'quiz', component: BARE },
      { path: '/courses/:courseId/plan', name: 'plan', component: BARE },
      { path: '/courses/:courseId/groups', name: 'groups', component: BARE },
      { path: '/courses/:courseId/settings', name: 'settings', component: BARE },
      { path: '/courses/:courseId/exchange', name: 'exchange', component: BARE },
      { path: '/courses/:courseId/marking/:itemId', name: 'stack', component: BARE },
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

/** A component as it stands in a page: with stores, a router and the plain editor. `before` lays out what the stores hold. */
export async function show(
  component: Component,
  props: object,
  router: Router = makeTestRouter(),
  before: () => void = () => undefined,
): Promise<VueWrapper> {
  const pinia = createPinia();
  setActivePinia(pinia);
  before();
  const one = mount(component, {
    props: props as never,
    attachTo: document.body,
    global: {
      plugins: [pinia, router, makeVuetify()],
      components: COMPONENTS,
      stubs: { DocumentEditor: PlainEditor, VDialog: true, VTooltip: true, VMenu: true },
      config: { warnHandler: (text) => warnings.push(text) },
    },
  });
  mounted.push(one);
  await flushPromises();
  return one;
}
