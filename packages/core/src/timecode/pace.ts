/** The straight line through points that come one by one, over several runs that each begin anywhere (least squares). */
export class Pace {
  private squares = 0;
  private products = 0;
  private offs = 0;
  private points = 0;
  private runs = 0;
  private run = { count: 0, x: 0, y: 0, xx: 0, xy: 0, yy: 0 };
  private origin = { x: 0, y: 0 };

  /** The points that follow belong to a run of their own. */
  begin(): void {
    const { count, x, y, xx, xy, yy } = this.run;
    if (count > 1) {
      this.squares += xx - (x * x) / count;
      this.products += xy - (x * y) / count;
      this.offs += yy - (y * y) / count;
      this.points += count;
      this.runs += 1;
    }
    this.run = { count: 0, x: 0, y: 0, xx: 0, xy: 0, yy: 0 };
  }

  push(at: number, value: number): void {
    if (this.run.count === 0) this.origin = { x: at, y: value };
    const [x, y] = [at - this.origin.x, value - this.origin.y];
    const { run } = this;
    run.count += 1;
    run.x += x;
    run.y += y;
    run.xx += x * x;
    run.xy += x * y;
    run.yy += y * y;
  }

  /** Rise of the line, and its standard error; undefined below three points. */
  slope(): { readonly slope: number; readonly error: number } | undefined {
    this.begin();
    const free = this.points - this.runs - 1;
    if (free < 1 || this.squares === 0) return undefined;
    const slope = this.products / this.squares;
    const residue = Math.max(0, this.offs - slope * this.products);
    return { slope, error: Math.sqrt(residue / free / this.squares) };
  }
}
