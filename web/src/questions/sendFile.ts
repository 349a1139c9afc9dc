import type { CourseFile } from '@rosemary/api';

/** Sends a file as an answer, with its progress from 0 to 1. */
export type SendFile = (file: File, onProgress: (share: number) => void) => Promise<CourseFile>;
