/** When something on the simulated network happens. */
export interface Scheduler {
  /** Milliseconds of simulated time. */
  readonly now: () => number;
  readonly after: (ms: number, run: () => void) => () => void;
  /**
   * The same, never to be cancelled, for what needs fewer turns of the loop until all that it set off has run: none for
   * what only plans further events, as a switch that passes a frame on; one for what promises go on from.
   */
  readonly light: (ms: number, run: () => void, turns: 0 | 1) => void;
  /** Time passes between events too: called when somebody from outside comes in. It never passes an event. */
  readonly catchUp: () => void;
  /** Drops everything that is still to happen. */
  readonly stop: () => void;
}

interface Event {
  readonly due: number;
  readonly order: number;
  readonly run: () => void;
  readonly turns: 0 | 1 | 2;
}

/** However much is passed on, others come to their turn. */
const mostAtOnce = 50;
/** Timers are no finer: turning the loop until the very moment would cost a tenth of a core. */
const toleranceMs = 1;
/**
 * While nobody outside is talking to it, what is due so soon runs in one go: waking up costs more than a frame. The
 * simulated time of each event stays its own. For a while after somebody came in, every event waits for its moment.
 */
const aheadMs = 45;
const exactForMs = 2000;

/**
 * Runs events one by one in the order of their times, paced by the real clock. Simulated time stands still while an
 * event and all that follows from it at once (promises, streams, Node's HTTP) runs: however busy the machine is, an
 * answer that is due before a time-out comes before it. Real time may run ahead meanwhile; the simulation catches up.
 * `speed` 20 lets a second pass in 50 ms of real time; with `Infinity` no clock paces it: time passes from event to
 * event and stands still while there is none, so that nothing expires because the machine was busy.
 */
export function startScheduler(speed = 1): Scheduler {
  const events: Event[] = [];
  const start = performance.now();
  const isPaced = speed < Infinity;
  const wall = () => (isPaced ? (performance.now() - start) * speed : Infinity);
  let current = 0;
  let order = 0;
  let running = false;
  let stopped = false;
  /** How many turns the event that ran last needs behind it; two after whatever came from outside. */
  let turns: 0 | 1 | 2 = 2;
  /** Somebody outside may be measuring until then, by the real clock. */
  let exactUntil = 0;
  let wake: { readonly at: number; readonly cancel: () => void } | undefined;

  // with nothing under way, simulated time is real time
  const now = () => (running || events.length > 0 || !isPaced ? current : Math.max(current, wall()));

  /** How long before its moment an event may run, in simulated time. */
  const ahead = () => Math.max(toleranceMs * speed, wall() < exactUntil ? 0 : aheadMs);

  function plan(): void {
    const next = events[0];
    if (!next || stopped || running || (wake && wake.at <= next.due)) return;
    wake?.cancel();
    const wait = isPaced ? next.due - wall() : 0;
    if (wait < ahead()) {
      // turns of the event loop: what the last event set off has run before the next one
      const second = () => void (immediate = setImmediate(runNext));
      let immediate: NodeJS.Immediate = setImmediate(turns < 2 ? runNext : second);
      wake = { at: next.due, cancel: () => clearImmediate(immediate) };
    } else {
      const timer = setTimeout(runNext, Math.ceil(wait / speed));
      wake = { at: next.due, cancel: () => clearTimeout(timer) };
    }
  }

  function runNext(): void {
    wake = undefined;
    turns = 0;
    for (let ran = 0; turns === 0 && ran < mostAtOnce && !stopped; ran += 1) {
      const next = events[0];
      if (!next || next.due > wall() + ahead()) break;
      ({ turns } = next);
      runOne(next);
    }
    plan();
    turns = 2;
  }

  function runOne(event: Event): void {
    events.shift();
    current = Math.max(current, event.due);
    running = true;
    try {
      event.run();
    } finally {
      running = false;
    }
  }

  function add(ms: number, run: () => void, turnsAfter: Event['turns']): Event {
    current = now();
    const event = { due: current + ms, order: (order += 1), run, turns: turnsAfter };
    insert(event);
    plan();
    return event;
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
      const event = add(ms, run, 2);
      return () => {
        const at = events.indexOf(event);
        if (at >= 0) events.splice(at, 1);
      };
    },
    light: (ms, run, turnsAfter) => void add(ms, run, turnsAfter),
    catchUp: () => {
      if (!isPaced) return;
      exactUntil = wall() + exactForMs * speed;
      if (!running) current = Math.max(current, Math.min(wall(), events[0]?.due ?? Infinity));
    },
    stop: () => {
      stopped = true;
      events.length = 0;
      wake?.cancel();
    },
  };
}
