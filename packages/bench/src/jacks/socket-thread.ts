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
  let waiting = [];
  let planned = false;
  const flush = () => {
    planned = false;
    const taken = waiting;
    waiting = [];
    const ends = new Uint32Array(taken.length);
    const ports = new Uint16Array(taken.length);
    let size = 0;
    taken.forEach(([bytes, port], at) => { size += bytes.length; ends[at] = size; ports[at] = port; });
    const bytes = new Uint8Array(size);
    taken.forEach(([each], at) => bytes.set(each, at === 0 ? 0 : ends[at - 1]));
    parentPort.postMessage({ bytes, ends, ports }, [bytes.buffer, ends.buffer, ports.buffer]);
  };
  socket.on('message', (bytes, { port }) => {
    waiting.push([bytes, port]);
    if (planned) return;
    planned = true;
    setImmediate(flush);
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
