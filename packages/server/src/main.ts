import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import { readConfig } from './config.ts';
import { serve } from './serve.ts';

const here = fileURLToPath(new URL('.', import.meta.url));

try {
  const config = readConfig(process.env, process.argv.slice(2), here);
  const log = pino({ level: config.logLevel }, pino.destination(2));
  const running = await serve(config, log, join(here, '../migrations'));
  let stopping = false;
  const stop = () => {
    if (stopping) return;
    stopping = true;
    running.stop().then(
      () => process.exit(0),
      (error: unknown) => {
        log.error({ err: error }, 'stop failed');
        process.exit(1);
      },
    );
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
  process.on('disconnect', stop);
  // only now: whoever reads it may end it at once, and a signal that nobody listens to is a death
  process.stdout.write(`Deep Patch is at ${running.url}\n`);
  process.send?.('ready');
} catch (error) {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
  process.exitCode = 1;
}
