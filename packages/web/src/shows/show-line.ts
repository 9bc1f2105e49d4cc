/** A show in the list of all, as the server tells it. */
export interface ShowLine {
  readonly id: string;
  readonly name: string;
  readonly subtitle: string;
  readonly rev: number;
  readonly devices: number;
  readonly archived: boolean;
  readonly changedAt: string;
}
