/** Attributes of the blocks that are set by a form and stand as one piece. */
export interface Formula {
  readonly tex: string;
}
export interface Media {
  readonly kind: 'video' | 'audio';
  readonly fileId: string | null;
  readonly src: string;
  readonly captionsId: string | null;
  readonly captionsSrc: string;
  readonly title: string;
  readonly source: string;
  readonly licence: string;
}
export interface Embed {
  readonly src: string;
  readonly title: string;
}
export interface FileShown {
  readonly fileId: string;
  readonly src: string;
  readonly name: string;
  readonly mediaType: string;
}
export interface CheckQuestion {
  readonly prompt: string;
  readonly answers: readonly { readonly text: string; readonly isRight: boolean; readonly feedback: string }[];
}
/** Where students hand in, in the page itself, what an assignment of the course asks for. */
export interface ResponseHere {
  readonly href: string;
  readonly title: string;
}
export interface BlockAttrs {
  readonly formula: Formula;
  readonly formulaInline: Formula;
  readonly media: Media;
  readonly embed: Embed;
  readonly fileShown: FileShown;
  readonly question: CheckQuestion;
  readonly response: ResponseHere;
}
export type BlockName = keyof BlockAttrs;

export const BLOCK_DEFAULTS: BlockAttrs = {
  formula: { tex: '' },
  formulaInline: { tex: '' },
  media: { kind: 'video', fileId: null, src: '', captionsId: null, captionsSrc: '', title: '', source: '', licence: '' },
  embed: { src: '', title: '' },
  fileShown: { fileId: '', src: '', name: '', mediaType: '' },
  question: { prompt: '', answers: [] },
  response: { href: '', title: '' },
};
