/** What questions of the bank are searched by; several of one kind are parted by commas. */
export const BANK_SEARCH = {
  folder: 'id',
  quiz: 'id',
  text: 'text',
  tags: 'words',
  levels: 'words',
  objectives: 'words',
  kinds: 'words',
  retired: 'flag',
  from: 'whole',
} as const;
