export * from './document.ts';
export * from './limits.ts';
export * from './requests.ts';
export * from './responses.ts';
export { options as validationOptions } from './joi.ts';
