import type { Column } from './columns.ts';

/** What is open over the gradebook: a column by the button at its head, or a dialog. */
export type Opened =
  | {
      readonly what: 'menu' | 'fill' | 'curve' | 'place' | 'copy' | 'history' | 'settings';
      readonly column: Column;
      readonly button: HTMLElement;
    }
  | { readonly what: 'add' | 'arrange' | 'differences' | 'import' | 'list' };
