export const FAST: Readonly<Record<string, string | number>>;
export const SAFE: Readonly<Record<string, string | number>>;
export interface Database {
  /** Of the server's role, without its password, which stands in `passwordFile`. */
  readonly url: string;
  readonly passwordFile: string;
  readonly secretUrl: string;
  /** Of who made the cluster and may do everything in it. */
  readonly keeperUrl: string;
  readonly port: number;
  readonly started: boolean;
  readonly stop: () => void;
}
export function startPostgres(
  dir: string,
  options?: { settings?: Readonly<Record<string, string | number>>; database?: string; port?: number },
): Promise<Database>;
export function stopPostgres(dir: string, options?: { remove?: boolean }): void;
export function freePort(): Promise<number>;
