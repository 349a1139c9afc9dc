export { demoInstant, isSchoolThere, loadDemo, SEED } from './load.ts';

export { DEMO_PASSWORD } from './people.ts';
