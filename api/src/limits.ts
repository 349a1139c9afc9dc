/** What fields take; the server checks it and the interface says it. */
export const LIMITS = {
  title: 160,
  unitTitle: 160,
  name: 80,
  email: 200,
  passwordLeast: 10,
  password: 200,
  note: 2000,
  noteBody: 4000,
  reason: 600,
  documentBytes: 400_000,
  criteria: 12,
  levels: 8,
  criterionTitle: 120,
  levelTitle: 80,
  descriptor: 600,
  categoryTitle: 60,
  categories: 20,
  variants: 200,
  items: 500,
} as const;

export interface FileType {
  readonly name: string;
  readonly mediaTypes: readonly string[];
  readonly extensions: readonly string[];
  readonly canNote: boolean;
}

/** File types that can be handed in. Notes in the margin can be tied to text and PDF. */
export const FILE_TYPES: { readonly [key: string]: FileType } = {
  pdf: { name: 'PDF', mediaTypes: ['application/pdf'], extensions: ['.pdf'], canNote: true },
  picture: {
    name: 'pictures (PNG, JPEG, WebP)',
    mediaTypes: ['image/png', 'image/jpeg', 'image/webp'],
    extensions: ['.png', '.jpg', '.jpeg', '.webp'],
    canNote: false,
  },
  word: {
    name: 'Word (.docx)',
    mediaTypes: ['application/vnd.openxmlformats-officedocument.wordprocessingml.document'],
    extensions: ['.docx'],
    canNote: false,
  },
  text: { name: 'plain text', mediaTypes: ['text/plain'], extensions: ['.txt', '.csv', '.md'], canNote: false },
};
