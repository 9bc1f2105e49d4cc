import { Worker } from 'node:worker_threads';

/** Datagrams that arrived together: `bytes` one behind the other, `ends` where each ends, `ports` who sent it. */
export interface Batch {
  readonly bytes: Uint8Array;
  readonly ends: Uint32Array;
  readonly ports: Uint16Array;
}

export interface ThreadSocket {
  readonly port: number;
  readonly send: (bytes: Uint8Array, port: number) => void;
  readonly close: () => void;
}

/**
 * Runs in a thread of its own and does nothing but empty the kernel's buffer, which holds a few hundred datagrams
 * only: whoever decodes them may take its time. Plain JavaScript, since a thread starts without any loader.
 */
const source = `
  const { parentPort } = require('node:worker_threads');
  const socket = require('node:dgram').createSocket({ type: 'udp4', recvBufferSize: 4 << 20 });
  const room = 1 << 20;
  const most = 16384;
  const [bytes, ends, ports] = [new Uint8Array(room), new Uint32Array(most), new Uint16Array(most)];
  let [count, size, planned, flushedAt] = [0, 0, false, 0];
  const flush = () => {
    planned = false;
    flushedAt = performance.now();
    if (count === 0) return;
    const batch = { bytes: bytes.slice(0, size), ends: ends.slice(0, count), ports: ports.slice(0, count) };
    [count, size] = [0, 0];
    parentPort.postMessage(batch, [batch.bytes.buffer, batch.ends.buffer, batch.ports.buffer]);
  };
  socket.on('message', (datagram, { port }) => {
    if (count === most || size + datagram.length > room) flush();
    bytes.set(datagram, size);
    size += datagram.length;
    ends[count] = size;
    ports[count] = port;
    count += 1;
    if (planned) return;
    planned = true;
    // a single one goes on at once; in a stream, waking the other thread for every few would cost most of all
    if (performance.now() - flushedAt > 20) setImmediate(flush);
    else setTimeout(flush, 8);
  });
  socket.on('error', (error) => parentPort.postMessage({ fault: error.message }));
  socket.bind(0, '127.0.0.1', () => parentPort.postMessage({ bound: socket.address().port }));
  parentPort.on('message', (wanted) => {
    if (wanted === 'close') { socket.close(); parentPort.close(); }
    else socket.send(wanted.bytes, wanted.port, '127.0.0.1', () => undefined);
  });
`;

/** Opens a UDP socket on a free port of loopback whose datagrams come in batches. */
export function openThreadSocket(onBatch: (batch: Batch) => void): Promise<ThreadSocket> {
  const thread = new Worker(source, { eval: true });
  thread.unref();
  return new Promise((done, refuse) => {
    thread.on('error', refuse);
    thread.on('message', (message: Batch | { readonly bound: number } | { readonly fault: string }) => {
      if ('fault' in message) refuse(new Error(message.fault));
      else if ('ends' in message) onBatch(message);
      else
        done({
          port: message.bound,
          send: (bytes, port) => thread.postMessage({ bytes, port }),
          close: () => thread.postMessage('close'),
        });
    });
  });
}
