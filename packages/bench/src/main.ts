import { Bench, type BenchRequest } from './bench.ts';

/**
 * The bench's own process: requests come over Node's IPC channel and are answered by number. It ends with its parent.
 * Its argument says how many seconds pass on it in one.
 */
const bench = new Bench(Number(process.argv[2] ?? 1));
const send = (message: unknown) => {
  if (process.connected) process.send?.(message);
};

bench.tellEvents((event) => send({ event }));
process.on('message', ({ id, request }: { id: number; request: BenchRequest }) => {
  bench.handle(request).then(
    (value) => send({ id, ok: true, value }),
    (error: unknown) => send({ id, ok: false, fault: error instanceof Error ? error.message : String(error) }),
  );
});
process.on('disconnect', () => {
  bench.stop();
  process.exit(0);
});
send({ ready: true });
