export { findLink, saveLink } from './saveLink.ts';
export { link } from './link.ts';
