// npm run measure -- fuzz [how many] [seed]: random requests against the running server.
import { fuzz } from './fuzz.ts';
import { measureLines } from './measure-lines.ts';
import { served } from './served.ts';

const [count = 20_000, seed = Math.floor(Date.now() / 1000)] = process.argv.slice(2).map(Number);
console.log(`${count} requests from seed ${seed}`);
const { tell, show } = measureLines();
const server = await served();
const { statuses, faults } = await fuzz(server.base, count, seed);
await server.stop();
for (const { request, status, answer } of faults.slice(0, 10))
  console.log(`${request.method} ${request.path} ${status}\n  ${request.body ?? ''}\n  ${answer}`);
const sum = (wanted: (status: number) => boolean) =>
  Object.entries(statuses).reduce((all, [key, times]) => all + (wanted(Number(key.slice(-3))) ? times : 0), 0);
tell(
  `${count.toLocaleString('en-GB')} random requests`,
  `${sum((status) => status < 400)} done, ${sum((status) => status >= 400 && status < 500)} refused, ${sum((status) => status >= 500)} with 5xx, ${faults.length} not as described`,
  'no 5xx, every answer as described',
  faults.length === 0,
);
show();
