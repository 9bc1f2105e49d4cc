import type { IncomingMessage, Server } from 'node:http';
import type { Duplex } from 'node:stream';
import type { contract } from '@deep-patch/core';
import { WebSocket, WebSocketServer } from 'ws';
import { z } from 'zod';
import { refusalFor } from '../http/guard.ts';

const joinSchema = z.strictObject({ topic: z.literal('join'), showId: z.string().max(40).nullable() });
const heartbeatMs = 5_000;
/** A tab that leaves so much unread is asleep or worse; when it comes back it joins anew and asks for what it missed. */
const mostUnread = 8 << 20;

interface Tab {
  showId: string | null;
  alive: boolean;
}

/** One WebSocket per browser tab: tells tabs of a show what is new and drops tabs that no longer answer. */
export class Hub {
  private readonly tabs = new Map<WebSocket, Tab>();
  private readonly sockets = new WebSocketServer({ noServer: true, maxPayload: 4096 });
  private readonly timer: NodeJS.Timeout;
  /** Called when a tab begins to look at a show, to tell that tab what only changes are told of. */
  onJoin: (showId: string, tell: (message: contract.LiveMessage) => void) => void = () => undefined;

  constructor(beatMs = heartbeatMs) {
    this.timer = setInterval(() => this.beat(), beatMs);
    this.timer.unref();
  }

  attach(server: Server, own: () => ReadonlySet<string>): void {
    server.on('upgrade', (request: IncomingMessage, socket: Duplex, head: Buffer) => {
      if (request.url !== '/api/live' || refusalFor(request, own())) {
        socket.end('HTTP/1.1 403 Forbidden\r\nconnection: close\r\n\r\n');
        return;
      }
      this.sockets.handleUpgrade(request, socket, head, (tab) => this.open(tab));
    });
  }

  tell(message: contract.LiveMessage): void {
    const text = JSON.stringify(message);
    const showId = 'showId' in message ? message.showId : null;
    for (const [socket, tab] of this.tabs) if (showId === null || tab.showId === showId) send(socket, text);
  }

  here(showId: string): number {
    return [...this.tabs.values()].filter((tab) => tab.showId === showId).length;
  }

  close(): void {
    clearInterval(this.timer);
    for (const socket of this.tabs.keys()) socket.terminate();
    this.sockets.close();
  }

  private open(socket: WebSocket): void {
    const tab: Tab = { showId: null, alive: true };
    this.tabs.set(socket, tab);
    socket.on('pong', () => (tab.alive = true));
    socket.on('error', () => socket.terminate());
    socket.on('message', (data) => this.join(socket, (data as Buffer).toString('utf8')));
    socket.on('close', () => {
      this.tabs.delete(socket);
      this.tellPresence(tab.showId);
    });
  }

  private join(socket: WebSocket, text: string): void {
    const tab = this.tabs.get(socket);
    const read = joinSchema.safeParse(parsed(text));
    if (!tab || !read.success) return;
    const before = tab.showId;
    tab.showId = read.data.showId;
    // from here on it is told everything: what it asks for now cannot miss what comes after
    const { showId } = tab;
    const tell = (message: contract.LiveMessage) => tab.showId === showId && send(socket, JSON.stringify(message));
    if (showId !== null) tell({ topic: 'joined', showId });
    if (before !== showId) {
      this.tellPresence(before);
      if (showId !== null) this.onJoin(showId, tell);
    }
    this.tellPresence(tab.showId);
  }

  private tellPresence(showId: string | null): void {
    if (showId !== null) this.tell({ topic: 'presence', showId, here: this.here(showId) });
  }

  /** A tab that did not answer the last ping is gone, whatever its socket says. */
  private beat(): void {
    for (const [socket, tab] of this.tabs) {
      if (!tab.alive) socket.terminate();
      else {
        tab.alive = false;
        socket.ping();
      }
    }
  }
}

function send(socket: WebSocket, text: string): void {
  if (socket.readyState !== WebSocket.OPEN) return;
  if (socket.bufferedAmount > mostUnread) socket.terminate();
  else socket.send(text);
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
