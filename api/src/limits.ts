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
  samples: 20,
  levels: 8,
  criterionTitle: 120,
  levelTitle: 80,
  descriptor: 600,
  categoryTitle: 60,
  categories: 20,
  variants: 200,
  items: 500,
  blockCells: 12_000,
  cellWords: 2000,
  fileName: 200,
  address: 2000,
  embedHosts: 60,
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
  text: {
    name: 'plain text and code (.txt, .csv, .md, .py, .js, …)',
    mediaTypes: ['text/plain'],
    extensions: [
      '.txt',
      '.csv',
      '.md',
      '.py',
      '.js',
      '.ts',
      '.java',
      '.c',
      '.cpp',
      '.h',
      '.cs',
      '.go',
      '.rs',
      '.rb',
      '.php',
      '.sql',
      '.r',
      '.m',
      '.html',
      '.css',
      '.json',
      '.yml',
    ],
    canNote: false,
  },
  sound: {
    name: 'sound (MP3, M4A, OGG, WAV, WebM)',
    mediaTypes: ['audio/mpeg', 'audio/mp4', 'audio/x-m4a', 'audio/ogg', 'audio/wav', 'audio/webm'],
    extensions: ['.mp3', '.m4a', '.ogg', '.wav', '.weba'],
    canNote: false,
  },
  video: { name: 'video (MP4, WebM)', mediaTypes: ['video/mp4', 'video/webm'], extensions: ['.mp4', '.webm'], canNote: false },
};

/** What a course keeps in its store besides what can be handed in. */
export const STORE_TYPES: { readonly [key: string]: FileType } = {
  ...FILE_TYPES,
  captions: { name: 'captions (WebVTT)', mediaTypes: ['text/vtt'], extensions: ['.vtt'], canNote: false },
  sheets: {
    name: 'spreadsheets and slides (.xlsx, .pptx)',
    mediaTypes: [
      'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
      'application/vnd.openxmlformats-officedocument.presentationml.presentation',
    ],
    extensions: ['.xlsx', '.pptx'],
    canNote: false,
  },
  archive: { name: 'archives (.zip)', mediaTypes: ['application/zip'], extensions: ['.zip'], canNote: false },
};

/** A file is sent in parts of this size at most; each is acknowledged by how much has come. */
export const PART_BYTES = 1_048_576;
