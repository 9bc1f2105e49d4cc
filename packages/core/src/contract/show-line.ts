/** A show in the list of all; `changedAt` as ISO 8601. */
export interface ShowLine {
  readonly id: string;
  readonly name: string;
  readonly subtitle: string;
  readonly rev: number;
  readonly devices: number;
  readonly archived: boolean;
  readonly changedAt: string;
}
