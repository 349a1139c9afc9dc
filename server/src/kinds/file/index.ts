export { findShownFile, saveShownFile } from './saveShownFile.ts';
export { file } from './file.ts';
