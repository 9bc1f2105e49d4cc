/** Keeps so many of the points that come, evenly spread over all of them, however many there are. */
export class Thinned<Point> {
  private kept: Point[] = [];
  private every = 1;
  private count = 0;

  private readonly most: number;

  constructor(most: number) {
    this.most = most;
  }

  push(point: Point): void {
    if (this.count % this.every === 0) this.kept.push(point);
    this.count += 1;
    if (this.kept.length < this.most) return;
    this.kept = this.kept.filter((_, at) => at % 2 === 0);
    this.every *= 2;
  }

  all(): readonly Point[] {
    return this.kept;
  }
}
