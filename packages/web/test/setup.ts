import { cleanup } from '@testing-library/react';
import { afterEach } from 'vitest';

afterEach(cleanup);

// What browsers have and jsdom lacks.
class ResizeObserverStub implements ResizeObserver {
  private readonly callback: ResizeObserverCallback;
  constructor(callback: ResizeObserverCallback) {
    this.callback = callback;
  }
  observe(target: Element) {
    this.callback([{ target, contentRect: { width: 900, height: 600 } } as ResizeObserverEntry], this);
  }
  unobserve() {
    // nothing is watched
  }
  disconnect() {
    // nothing is watched
  }
}
globalThis.ResizeObserver = ResizeObserverStub;
Object.assign(HTMLElement.prototype, { scrollTo: () => undefined });
Object.assign(HTMLDialogElement.prototype, {
  showModal(this: HTMLDialogElement) {
    this.open = true;
  },
  close(this: HTMLDialogElement) {
    this.open = false;
  },
});
