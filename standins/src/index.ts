export * from './scanner.ts';
