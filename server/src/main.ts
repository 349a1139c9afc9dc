import { readConfig } from './platform/config.ts';
import { serve } from './serve.ts';

const LONGEST_END_MS = 20_000;

try {
  const running = await serve(readConfig(process.env));
  process.stdout.write(`Rosemary is at ${running.url}\n`);
  let isStopping = false;
  const stop = (): void => {
    if (isStopping) return;
    isStopping = true;
    // What cannot be ended in time is ended all the same: whoever started us waits.
    setTimeout(() => process.exit(1), LONGEST_END_MS).unref();
    void running.stop().finally(() => process.exit(0));
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
} catch (error) {
  const isTaken = (error as { code?: string }).code === 'EADDRINUSE';
  process.stderr.write(
    `${isTaken ? `Port ${process.env.PORT ?? '3000'} is taken by another program. Choose another: PORT=3001 npm start` : String(error instanceof Error ? error.message : error)}\n`,
  );
  process.exit(1);
}
