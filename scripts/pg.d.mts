export const FAST: Readonly<Record<string, string | number>>;
export const SAFE: Readonly<Record<string, string | number>>;
export function startPostgres(
  dir: string,
  options?: { settings?: Readonly<Record<string, string | number>>; database?: string; user?: string; port?: number },
): Promise<{ url: string; port: number; started: boolean; stop: () => void }>;
export function stopPostgres(dir: string, options?: { remove?: boolean }): void;
