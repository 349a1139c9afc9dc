import type { Component, InjectionKey } from 'vue';

/** What draws an assignment inside a page for its students: given by the page of a student, since parts know no kind of item. */
export const ANSWER_HERE: InjectionKey<Component> = Symbol('answer here');
