import type { GivenAnswer } from '@rosemary/api';
import { type Answer, nodesOfType, plainText } from '@rosemary/core';

/** Core scores no essay: that something was given is all it needs to know. */
export const toAnswer = (given: GivenAnswer | null): Answer | null => (given?.kind === 'work' ? { kind: 'work' } : given);

const isBlank = (answer: GivenAnswer | null): boolean => {
  if (answer === null) return true;
  if (answer.kind === 'text') return answer.text.trim() === '';
  if (answer.kind === 'texts') return Object.values(answer.texts).every((t) => t.trim() === '');
  if (answer.kind === 'choices') return answer.ids.length === 0;
  if (answer.kind === 'pairs') return Object.keys(answer.pairs).length === 0;
  if (answer.kind === 'work') {
    const document = answer.document ?? null;
    return (answer.fileId ?? null) === null && plainText(document).trim() === '' && nodesOfType(document, 'picture').length === 0;
  }
  return false;
};

/** An answer with nothing in it is none. */
export const soundAnswer = (answer: GivenAnswer | null): GivenAnswer | null => (isBlank(answer) ? null : answer);
