export { addTerm, changeTerm } from './change.ts';
export { getTerm, listTerms } from './term.ts';
