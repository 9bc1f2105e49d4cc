import { expect, test } from 'vitest';
import { fuzz } from '../../../../scripts/fuzz.ts';
import { startServer } from '../../test/running.ts';

test(
  '1,000 random requests: never a fault of its own, every answer as the description says',
  { timeout: 120_000 },
  async () => {
    const server = await startServer();
    const seed = Math.floor(Date.now() / 1000);
    console.log(`FUZZ_SEED=${seed}`);
    const { statuses, faults } = await fuzz(server.url, 1000, seed);
    expect(faults.slice(0, 3)).toEqual([]);
    // what is sent reaches behind the door as well as up to it
    for (const status of [201, 404, 422]) {
      const key = `POST /api/shows/{id}/changes ${status}`;
      expect([key, statuses[key] ?? 0]).toEqual([key, expect.toSatisfy((count: number) => count > 0)]);
    }
    await server.stop();
  },
);
