import { Worker } from 'node:worker_threads';

/**
 * Datagrams that arrived together: `bytes` one behind the other, `ends` where each ends, and who sent it to which of
 * the sockets.
 */
export interface Batch {
  readonly bytes: Uint8Array;
  readonly ends: Uint32Array;
  readonly addresses: Uint32Array;
  readonly ports: Uint16Array;
  readonly sockets: Uint8Array;
}

interface Outgoing {
  readonly bytes: Uint8Array;
  readonly address: number;
  readonly port: number;
  /** Which of the sockets it leaves by. */
  readonly socket: number;
}

export interface ThreadSocket {
  /** The first of its ports. */
  readonly port: number;
  readonly send: (datagram: Outgoing) => void;
  readonly close: () => void;
}

/**
 * Runs in a thread of its own and does nothing but empty the kernel's buffer, which holds a few hundred datagrams
 * only: whoever decodes them may take its time. Plain JavaScript, since a thread starts without any loader.
 */
const source = `
  const { parentPort, workerData } = require('node:worker_threads');
  const { createSocket } = require('node:dgram');
  const room = 1 << 20;
  const most = 16384;
  const bytes = new Uint8Array(room);
  const [ends, addresses, ports, sockets] = [new Uint32Array(most), new Uint32Array(most), new Uint16Array(most), new Uint8Array(most)];
  let [count, size, planned, flushedAt, isFlood, lastText, lastAddress] = [0, 0, false, 0, false, '', 0];
  const flush = () => {
    planned = false;
    flushedAt = performance.now();
    if (count === 0) return;
    // nobody waits for one of so many: fewer wakings leave the time to those who read and decode
    isFlood = count > 400;
    const batch = { bytes: bytes.slice(0, size) };
    for (const [key, list] of Object.entries({ ends, addresses, ports, sockets })) batch[key] = list.slice(0, count);
    [count, size] = [0, 0];
    parentPort.postMessage(batch, Object.values(batch).map(({ buffer }) => buffer));
  };
  const numbered = (text) => {
    if (text !== lastText) {
      lastText = text;
      lastAddress = text.split('.').reduce((sum, part) => sum * 256 + Number(part), 0);
    }
    return lastAddress;
  };
  const take = (socket, datagram, { address, port }) => {
    if (count === most || size + datagram.length > room) flush();
    bytes.set(datagram, size);
    size += datagram.length;
    ends[count] = size;
    addresses[count] = numbered(address);
    ports[count] = port;
    sockets[count] = socket;
    count += 1;
    if (planned) return;
    planned = true;
    // a single one goes on at once; in a stream, waking the other thread for every few would cost most of all
    if (performance.now() - flushedAt > 40) setImmediate(flush);
    else setTimeout(flush, isFlood ? 24 : 8);
  };
  const bound = (port) => new Promise((done) => {
    const socket = createSocket({ type: 'udp4', recvBufferSize: 4 << 20 });
    socket.once('error', () => { socket.close(); done(undefined); });
    socket.bind(port, '127.0.0.1', () => { socket.removeAllListeners('error'); socket.on('error', () => undefined); done(socket); });
  });
  const sideBySide = async () => {
    for (let attempt = 0; attempt < 20; attempt += 1) {
      const first = await bound(0);
      const open = first ? [first] : [];
      for (let next = 1; first && next < workerData.count; next += 1) {
        const more = await bound(first.address().port + next);
        if (more) open.push(more);
      }
      if (open.length === workerData.count) return open;
      for (const socket of open) socket.close();
    }
    return undefined;
  };
  sideBySide().then((open) => {
    if (!open) { parentPort.postMessage({ fault: 'no free ports side by side' }); parentPort.close(); return; }
    for (const [at, socket] of open.entries()) socket.on('message', (datagram, from) => take(at, datagram, from));
    parentPort.on('message', (wanted) => {
      if (wanted === 'close') { for (const socket of open) socket.close(); parentPort.close(); return; }
      for (const { bytes, address, port, socket } of wanted)
        open[socket]?.send(bytes, port, [24, 16, 8, 0].map((shift) => (address >>> shift) & 255).join('.'), () => undefined);
    });
    parentPort.postMessage({ bound: open[0].address().port });
  });
`;

/** Opens UDP sockets on free ports of loopback, side by side, whose datagrams come in batches and leave in batches. */
export function openThreadSockets(count: number, onBatch: (batch: Batch) => void): Promise<ThreadSocket> {
  const thread = new Worker(source, { eval: true, workerData: { count } });
  thread.unref();
  let waiting: Outgoing[] = [];
  const send = (datagram: Outgoing) => {
    if (waiting.length === 0)
      queueMicrotask(() => {
        thread.postMessage(waiting);
        waiting = [];
      });
    waiting.push(datagram);
  };
  return new Promise((done, refuse) => {
    thread.on('error', refuse);
    thread.on('message', (message: Batch | { readonly bound: number } | { readonly fault: string }) => {
      if ('fault' in message) refuse(new Error(message.fault));
      else if ('ends' in message) onBatch(message);
      else done({ port: message.bound, send, close: () => thread.postMessage('close') });
    });
  });
}
