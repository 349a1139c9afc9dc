export { activity } from './activity.ts';
