import * as api from '@rosemary/api/endpoints';
import type { FileChange, FileStore, FolderChange, StoreFile, StoreFolder } from '@rosemary/api';
import { computed, ref, type Ref } from 'vue';
import { call, callWithFile } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useNotices } from '../stores/noticeStore.ts';

/** A file on its way to the course. */
export interface Arriving {
  readonly name: string;
  share: number;
  fault: string;
  readonly abort: AbortController;
}

/** The files of a course and everything that changes them; each change can be taken back. */
export function useStore(courseId: Ref<string>) {
  const store = ref<FileStore | null>(null);
  const fault = ref('');
  const arriving = ref<Arriving[]>([]);
  const notices = useNotices();
  const base = computed(() => ({ courseId: courseId.value }));

  async function load(): Promise<void> {
    try {
      store.value = await call(api.getFileStore, base.value);
    } catch (error) {
      fault.value = error instanceof Error ? error.message : '';
    }
  }
  async function run(change: () => Promise<void>): Promise<void> {
    try {
      await change();
    } catch (error) {
      notices.sayFault(error);
      if (!(error instanceof HttpProblem) || error.code === 'conflict') await load();
    }
  }
  /** One after another; each can be cancelled, and one that fails does not keep the others. */
  async function add(files: readonly File[], folderId: string | null): Promise<void> {
    const coming = files.map((file) => ({ file, line: { name: file.name, share: 0, fault: '', abort: new AbortController() } }));
    arriving.value = [...arriving.value, ...coming.map((c) => c.line)];
    for (const { file, line } of coming) {
      const shown = arriving.value.find((a) => a.abort === line.abort) ?? line;
      if (line.abort.signal.aborted) continue;
      try {
        const at = { ...base.value, ...(folderId === null ? {} : { folder: folderId }) };
        await callWithFile(api.addFile, at, file, {
          onProgress: (share) => (shown.share = share),
          signal: line.abort.signal,
        });
        arriving.value = arriving.value.filter((a) => a.abort !== line.abort);
      } catch (error) {
        shown.fault = error instanceof HttpProblem ? error.message : 'It did not arrive.';
      }
    }
    await load();
  }
  function forget(line: Arriving): void {
    line.abort.abort();
    arriving.value = arriving.value.filter((a) => a.abort !== line.abort);
  }
  const changeFile = (file: StoreFile, change: Omit<FileChange, 'version'>, words: string): Promise<void> =>
    run(async () => {
      store.value = await call(api.changeFile, { ...base.value, fileId: file.id }, { ...change, version: file.version });
      const back = Object.fromEntries(Object.keys(change).map((k) => [k, file[k as keyof StoreFile]]));
      notices.say(words, async () => {
        const { version } = store.value?.files.find((f) => f.id === file.id) ?? file;
        store.value = await call(api.changeFile, { ...base.value, fileId: file.id }, { ...back, version });
      });
    });
  const changeFolder = (folder: StoreFolder, change: Omit<FolderChange, 'version'>, words: string): Promise<void> =>
    run(async () => {
      store.value = await call(api.changeFolder, { ...base.value, folderId: folder.id }, { ...change, version: folder.version });
      const back = Object.fromEntries(Object.keys(change).map((k) => [k, folder[k as keyof StoreFolder]]));
      notices.say(words, async () => {
        const { version } = store.value?.folders.find((f) => f.id === folder.id) ?? folder;
        store.value = await call(api.changeFolder, { ...base.value, folderId: folder.id }, { ...back, version });
      });
    });
  const addFolder = (title: string, parentId: string | null): Promise<void> =>
    run(async () => {
      store.value = (await call(api.addFolder, base.value, { title, parentId })).store;
    });
  const removeFolder = (folder: StoreFolder): Promise<void> =>
    run(async () => {
      store.value = await call(api.removeFolder, { ...base.value, folderId: folder.id });
      notices.say(`The folder “${folder.title}” is deleted.`, async () => {
        store.value = await call(api.restoreFolder, { ...base.value, folderId: folder.id });
      });
    });
  const removeFiles = (files: readonly StoreFile[]): Promise<void> =>
    run(async () => {
      const body = { fileIds: files.map((f) => f.id) };
      store.value = await call(api.removeFiles, base.value, body);
      notices.say(files.length === 1 ? `“${files[0]?.name}” is deleted.` : `${files.length} files are deleted.`, async () => {
        store.value = await call(api.restoreFiles, base.value, body);
      });
    });
  const replace = (file: StoreFile, next: File): Promise<void> =>
    run(async () => {
      store.value = await callWithFile(api.replaceFile, { ...base.value, fileId: file.id }, next);
      const past = store.value.files.find((f) => f.id === file.id)?.past[0];
      notices.say(`“${file.name}” is replaced wherever it stands.`, async () => {
        if (past !== undefined) await takePast(file, past.id);
      });
    });
  const takePast = (file: StoreFile, pastId: string): Promise<void> =>
    run(async () => {
      store.value = await call(api.showPastFile, { ...base.value, fileId: file.id }, { pastId });
    });
  return { store, fault, arriving, load, add, forget, changeFile, changeFolder, addFolder, removeFolder, removeFiles, replace, takePast };
}
