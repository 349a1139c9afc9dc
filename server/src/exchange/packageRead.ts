import type { Archive, ArchiveFile } from '@rosemary/api';

/** A package that was read: what is to come, where its bytes are, and what of it cannot come. */
export interface Source {
  readonly kind: 'archive' | 'cartridge';
  readonly archive: Omit<Archive, 'policy'> & { readonly policy: Archive['policy'] | null };
  readonly entryOf: (file: ArchiveFile) => string;
  readonly problems: readonly string[];
}
