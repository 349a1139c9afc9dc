import { checkDocument, type NoteView } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';

export type Numbered = NoteView & { readonly number: number };
/** A stretch of a line: its words, whether a note lies on it, and the numbers of the notes that end behind it. */
export interface Stretch {
  readonly text: string;
  readonly isNoted: boolean;
  readonly isStruck: boolean;
  readonly isBold: boolean;
  readonly isItalic: boolean;
  readonly after: readonly number[];
  /** Words proposed in place of those struck. */
  readonly inserted: string;
}
export interface PaperLine {
  readonly kind: 'heading' | 'text' | 'item' | 'code';
  readonly level: number;
  readonly stretches: readonly Stretch[];
}

interface Inline {
  readonly from: number;
  readonly text: string;
  readonly isBold: boolean;
  readonly isItalic: boolean;
}
const PLAIN = { isNoted: false, isStruck: false, isBold: false, isItalic: false, after: [], inserted: '' };

/** Cuts one piece of text where notes begin and end, so that each stretch is wholly on a note or wholly off it. */
function cut(piece: Inline, notes: readonly Numbered[]): Stretch[] {
  const end = piece.from + piece.text.length;
  const edges = new Set([piece.from, end]);
  for (const { anchor } of notes) {
    if (anchor.kind !== 'text') continue;
    for (const edge of [anchor.from, anchor.to]) if (edge > piece.from && edge < end) edges.add(edge);
  }
  const places = [...edges].sort((a, b) => a - b);
  return places.slice(0, -1).map((from, n) => {
    const to = places[n + 1] as number;
    const on = notes.filter((note) => note.anchor.kind === 'text' && note.anchor.from < to && note.anchor.to > from);
    const ending = on.filter((note) => note.anchor.kind === 'text' && note.anchor.to === to);
    return {
      ...{ text: piece.text.slice(from - piece.from, to - piece.from), isBold: piece.isBold, isItalic: piece.isItalic },
      ...{ isNoted: on.length > 0, isStruck: on.some((note) => note.replacement !== null), after: ending.map((note) => note.number) },
      inserted: ending.flatMap((note) => (note.replacement === null || note.replacement === '' ? [] : [note.replacement])).join(' '),
    };
  });
}

type Node = Extract<ReturnType<typeof checkDocument>, { ok: true }>['node'];

/** A block that is no text, named in brackets with what it says of itself. */
function namedBlock(node: Node): PaperLine {
  const words = ['alt', 'title', 'tex', 'prompt'].map((name) => node.attrs[name] as unknown).find((v) => typeof v === 'string' && v !== '');
  const text = `[${node.type.name}${typeof words === 'string' ? `: ${words}` : ''}]`;
  return { kind: 'text', level: 0, stretches: [{ ...PLAIN, text }] };
}

function textLine(node: Node, at: number, isItem: boolean, notes: readonly Numbered[]): PaperLine {
  const pieces: Inline[] = [];
  node.forEach((child, offset) => {
    const has = (name: string): boolean => child.marks.some((m) => m.type.name === name);
    const tex = child.attrs.tex as unknown;
    const other = child.type.name === 'hardBreak' ? '\n' : typeof tex === 'string' ? tex : '';
    const text = child.isText ? (child.text ?? '') : other;
    if (text !== '') pieces.push({ from: at + 1 + offset, text, isBold: has('bold'), isItalic: has('italic') });
  });
  const kind = node.type.name === 'heading' ? 'heading' : node.type.name === 'codeBlock' ? 'code' : isItem ? 'item' : 'text';
  const level = typeof node.attrs.level === 'number' ? node.attrs.level : 0;
  return { kind, level, stretches: pieces.flatMap((piece) => cut(piece, notes)) };
}

/** A written answer as lines to be set on paper, with its notes where they belong. What is no text is named in brackets. */
export function paperLines(document: DocumentNode, notes: readonly Numbered[]): PaperLine[] {
  const check = checkDocument(document);
  if (!check.ok) return [];
  const lines: PaperLine[] = [];
  check.node.descendants((node, at, parent) => {
    if (node.isTextblock) {
      lines.push(textLine(node, at, parent?.type.name === 'listItem', notes));
      return false;
    }
    if (node.isAtom && node.isBlock) lines.push(namedBlock(node));
    return true;
  });
  return lines;
}
