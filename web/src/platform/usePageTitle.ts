import { onBeforeUnmount, ref, watch, type Ref } from 'vue';

const subject = ref<{ readonly title: string; readonly by: symbol } | null>(null);
/** What the page that is open is about, or null where its name says it all. */
export const pageSubject = (): Ref<{ readonly title: string } | null> => subject;

/** Says what a page is about, such as the title of its item, for as long as the page is open. */
export function usePageTitle(title: () => string | null | undefined): void {
  const by = Symbol('page');
  watch(
    title,
    (now) => {
      if (now) subject.value = { title: now, by };
      else if (subject.value?.by === by) subject.value = null;
    },
    { immediate: true },
  );
  onBeforeUnmount(() => {
    if (subject.value?.by === by) subject.value = null;
  });
}
