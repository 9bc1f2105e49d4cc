/** Something that happened on air: simulated milliseconds, whose it is, and the item that it is about. */
export interface AirEvent {
  readonly at: number;
  readonly deviceId: string;
  /** `arrives`: an order got there; `starts`: the player begins; `moves`: the first frame that moves; `list`: it offers another; `call`: somebody called in. */
  readonly what:
    'cut' | 'on_air' | 'arrives' | 'starts' | 'moves' | 'stops' | 'holds' | 'ready' | 'ends' | 'list' | 'call';
  /** Of a switcher, the input. */
  readonly input: number | null;
  readonly item: string;
}

/** Whoever wants to know what goes on air is told. */
export class AirLog {
  private readonly ears = new Set<(event: AirEvent) => void>();

  listen(hear: (event: AirEvent) => void): () => void {
    this.ears.add(hear);
    return () => this.ears.delete(hear);
  }

  note(event: AirEvent): void {
    for (const hear of this.ears) hear(event);
  }
}
