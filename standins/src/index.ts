export * from './registrar.ts';
export * from './scanner.ts';
