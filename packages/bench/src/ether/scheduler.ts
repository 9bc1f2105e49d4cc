/** When something on the simulated network happens; `speed` 20 lets a second pass in 50 ms of real time. */
export interface Scheduler {
  /** Milliseconds of simulated time. */
  readonly now: () => number;
  readonly after: (ms: number, run: () => void) => () => void;
  /** Time passes between events too: called when somebody from outside comes in. It never passes an event. */
  readonly catchUp: () => void;
  /** Drops everything that is still to happen. */
  readonly stop: () => void;
}

interface Event {
  readonly due: number;
  readonly order: number;
  readonly run: () => void;
}

/** Timers are no finer: turning the loop until the very moment would cost a tenth of a core. */
const toleranceMs = 1;

/**
 * Runs events one by one in the order of their times, paced by the real clock. Simulated time stands still while an
 * event and all that follows from it at once (promises, streams, Node's HTTP) runs: however busy the machine is, an
 * answer that is due before a time-out comes before it. Real time may run ahead meanwhile; the simulation catches up.
 */
export function startScheduler(speed = 1): Scheduler {
  const events: Event[] = [];
  const start = performance.now();
  const wall = () => (performance.now() - start) * speed;
  let current = 0;
  let order = 0;
  let running = false;
  let stopped = false;
  let wake: { readonly at: number; readonly cancel: () => void } | undefined;

  // with nothing under way, simulated time is real time
  const now = () => (running || events.length > 0 ? current : Math.max(current, wall()));

  function plan(): void {
    const next = events[0];
    if (!next || stopped || running || (wake && wake.at <= next.due)) return;
    wake?.cancel();
    const wait = (next.due - wall()) / speed;
    if (wait < toleranceMs) {
      // two turns of the event loop: what the last event set off has run before the next one
      let immediate = setImmediate(() => (immediate = setImmediate(runNext)));
      wake = { at: next.due, cancel: () => clearImmediate(immediate) };
    } else {
      const timer = setTimeout(runNext, Math.ceil(wait));
      wake = { at: next.due, cancel: () => clearTimeout(timer) };
    }
  }

  function runNext(): void {
    wake = undefined;
    const next = events[0];
    if (!next || stopped) return;
    if (next.due <= wall() + toleranceMs * speed) {
      events.shift();
      current = Math.max(current, next.due);
      running = true;
      try {
        next.run();
      } finally {
        running = false;
      }
    }
    plan();
  }

  function insert(event: Event): void {
    let [low, high] = [0, events.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      const there = events[middle];
      if (there && (there.due < event.due || (there.due === event.due && there.order < event.order))) low = middle + 1;
      else high = middle;
    }
    events.splice(low, 0, event);
  }

  return {
    now,
    after: (ms, run) => {
      current = now();
      const event = { due: current + ms, order: (order += 1), run };
      insert(event);
      plan();
      return () => {
        const at = events.indexOf(event);
        if (at >= 0) events.splice(at, 1);
      };
    },
    catchUp: () => {
      if (!running) current = Math.max(current, Math.min(wall(), events[0]?.due ?? Infinity));
    },
    stop: () => {
      stopped = true;
      events.length = 0;
      wake?.cancel();
    },
  };
}
