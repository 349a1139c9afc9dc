import { serveCollection } from './collection.ts';

// One line says where it listens; whoever started it reads that, and ends it when they end.
const { url, stop } = await serveCollection(new URL('../texts/', import.meta.url), Number(process.env.PORT ?? '0'));
process.stdout.write(`collection ${url}\n`);
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.on(signal, () => {
    void stop().then(() => process.exit(0));
  });
