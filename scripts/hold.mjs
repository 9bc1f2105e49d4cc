// One Deep Patch at a time in a data folder.
import { createHash } from 'node:crypto';
import { realpathSync } from 'node:fs';
import { createConnection, createServer } from 'node:net';

const answerWithinMs = 1000;

/**
 * Holds a folder for this process. The name belongs to the kernel (an abstract socket, unix(7)) and is gone with the
 * process, however that ends, so that nothing stale is left to be judged. Answers undefined, or what the process that
 * holds it already says of itself.
 */
export function holdFolder(dir, about) {
  const name = `\0deep-patch-${createHash('sha256').update(realpathSync(dir)).digest('hex').slice(0, 32)}`;
  return new Promise((done, refuse) => {
    const server = createServer((socket) => {
      socket.on('error', () => socket.destroy());
      socket.end(about);
    });
    server.once('error', (error) => (error.code === 'EADDRINUSE' ? done(whoHolds(name)) : refuse(error)));
    server.listen(name, () => {
      server.unref();
      done(undefined);
    });
  });
}

function whoHolds(name) {
  return new Promise((done) => {
    const socket = createConnection(name);
    let text = '';
    socket.setTimeout(answerWithinMs, () => socket.destroy());
    socket.on('data', (chunk) => (text += chunk));
    socket.on('error', () => undefined);
    socket.on('close', () => done(text || 'another process'));
  });
}
