import { groupAlike, type AlikeGroup, type ShortAnswer } from '@rosemary/core';

/** Groups answers beside the page, so that a thousand of them hold no hand up. */
self.onmessage = (event: MessageEvent<readonly ShortAnswer[]>): void => {
  const groups: readonly AlikeGroup[] = groupAlike(event.data);
  self.postMessage(groups);
};
