import type { WorkingLine } from '@rosemary/core';
import { type Paper, SOFT } from './paperBook.ts';

/** How a number came about, line under line, each set in under what it belongs to; `left` is where the first of them begins. */
export function setWorking(paper: Paper, lines: readonly WorkingLine[], left: number): void {
  for (const line of lines) {
    paper.font('sans').fontSize(7.5).fillColor(SOFT);
    paper.text(`${line.rule}${line.value === '' ? '' : `   ${line.value}`}`, left);
    setWorking(paper, line.lines ?? [], left + 10);
  }
}
