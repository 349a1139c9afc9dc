export { answerSheets } from './answerSheets.ts';
export { printSheets } from './forms.ts';
export { addKeyOnly } from './keyOnly.ts';
export { readPicture } from './readPicture.ts';
export { paperTestRoutes } from './routes.ts';
export { addScan } from './scans.ts';
export { printedSheets } from './sheetBook.ts';
export { readStanding } from './sheets.ts';
