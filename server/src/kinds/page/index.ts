export { findFirstPage, findPage } from './findPage.ts';
export { savePage } from './savePage.ts';
export { addTemplate, getVersion, listTemplates, listVersions, setTemplateRemoved, useTemplate } from './versions.ts';
export { page } from './page.ts';
