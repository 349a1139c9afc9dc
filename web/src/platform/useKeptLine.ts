import { ref, watch, type Ref } from 'vue';

/** A text that survives a reload before it is sent; emptied, nothing of it stays. */
export function useKeptLine(key: () => string): Ref<string> {
  const place = `rosemary ${key()}`;
  const text = ref(sessionStorage.getItem(place) ?? '');
  watch(text, (now) => {
    if (now === '') sessionStorage.removeItem(place);
    else sessionStorage.setItem(place, now);
  });
  return text;
}
