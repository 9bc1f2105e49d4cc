import type { ChildProcess } from 'node:child_process';

export interface StartRun {
  readonly child: ChildProcess & { readonly pid: number };
  /** The code with which it ended. */
  readonly ended: Promise<number>;
  readonly said: () => string;
  readonly base: string;
}
export function runStart(
  dataDir: string,
  port: number,
  args?: readonly string[],
  settings?: Readonly<Record<string, string>>,
): Promise<StartRun>;
export function processesOf(
  dataDir: string,
  launcher: number,
): Readonly<Record<'launcher' | 'server' | 'bench' | 'database', number | undefined>>;
export function kill(...pids: (number | undefined)[]): void;
export function isRunning(pid: number | undefined): boolean;
