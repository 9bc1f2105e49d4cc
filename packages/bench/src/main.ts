import { Bench, type BenchRequest } from './bench.ts';

/** The bench's own process: requests come over Node's IPC channel and are answered by number. It ends with its parent. */
const bench = new Bench();

process.on('message', ({ id, request }: { id: number; request: BenchRequest }) => {
  bench.handle(request).then(
    (value) => process.send?.({ id, ok: true, value }),
    (error: unknown) =>
      process.send?.({ id, ok: false, fault: error instanceof Error ? error.message : String(error) }),
  );
});
process.on('disconnect', () => {
  bench.stop();
  process.exit(0);
});
process.send?.({ ready: true });
