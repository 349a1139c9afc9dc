export { bareFile, canBeBare, textOfFile } from './opened.ts';
export { sendBareFile } from './sendBareFile.ts';
export { WORD } from './wordFile.ts';
export { keepBareCopy } from './bareCopy.ts';
