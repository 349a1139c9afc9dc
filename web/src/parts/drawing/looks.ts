import { wrapWords, type ShapeKind, type Solid } from '@rosemary/core';

/** A drawing looks the same by day and by night and on paper, so its colours are its own. */
export const TONES: readonly { readonly name: string; readonly fill: string; readonly ink: string }[] = [
  { name: 'plain', fill: '#ffffff', ink: '#22302a' },
  { name: 'green', fill: '#e3ede5', ink: '#2e4b3f' },
  { name: 'violet', fill: '#ececf6', ink: '#45478a' },
  { name: 'red', fill: '#f7e8e1', ink: '#8a3f1e' },
  { name: 'yellow', fill: '#f6efd8', ink: '#664a0c' },
];
export const FONT = { family: 'Source Sans 3 Variable', size: 16, line: 20 } as const;
export const KIND_WORDS: { readonly [kind in ShapeKind]: string } = {
  box: 'Box',
  oval: 'Oval',
  words: 'Words',
  arrow: 'Arrow',
  line: 'Line',
  pen: 'Pen',
};

let context: CanvasRenderingContext2D | null = null;
function measure(line: string): number {
  context ??= document.createElement('canvas').getContext('2d');
  if (context === null) return line.length * 8;
  context.font = `${FONT.size}px '${FONT.family}'`;
  return context.measureText(line).width;
}
/** The lines of words in a solid, with some air at its sides. */
export const linesOf = (solid: Solid): readonly string[] =>
  solid.words === '' ? [] : wrapWords(solid.words, solid.width * (solid.kind === 'oval' ? 0.75 : 1) - 12, measure);
