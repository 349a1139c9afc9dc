export { markedCopy } from './markedCopy.ts';
export { INK, makePaper, type Paper, SOFT } from './paperBook.ts';
export { type PaperLine, paperLines } from './paperText.ts';
export type { CopiedFile, MarkedWork } from './setPages.ts';
export { setWorking } from './workingLines.ts';
