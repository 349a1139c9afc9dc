import type { ItemDetail, StudentItem } from '@rosemary/api';
import type { Component } from 'vue';

/** What the page of an item gives to the editor of its kind, and what that tells of. The head of the page is its slot `head`. */
export interface EditorProps {
  readonly base: { readonly courseId: string; readonly itemId: string };
  readonly detail: ItemDetail;
  readonly canEdit: boolean;
}
export interface EditorEmits {
  saved: [detail: ItemDetail];
}

/** What a student's page gives to the view of its kind. */
export interface StudyProps {
  readonly base: { readonly courseId: string; readonly itemId: string };
  readonly item: StudentItem;
  /** Somebody looks at it as this student: nothing is changed. */
  readonly isLooking: boolean;
}
export interface StudyEmits {
  /** Something was handed in, taken back or answered: the item is read again. */
  changed: [];
}

/** A kind of item as it is shown. Its word and its rules stand in core, its mark in `parts/kinds.ts`. */
export interface ShownKind {
  /** What it is written in; a page of its own is named by its route. */
  readonly editor: Component | { readonly route: string };
  /** What the inspector of the Plan says of this kind beside what it says of all. */
  readonly inspectorPart: Component | null;
  readonly study: Component;
}
