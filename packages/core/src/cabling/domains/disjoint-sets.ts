/** Disjoint sets by name: what was joined finds the same name, the lowest of all that were, in whatever order. */
export class DisjointSets {
  private readonly above = new Map<string, string>();

  find(name: string): string {
    let root = name;
    for (let next = this.above.get(root); next !== undefined && next !== root; next = this.above.get(root)) root = next;
    if (root !== name) this.above.set(name, root);
    return root;
  }

  join(a: string, b: string): void {
    const [one, two] = [this.find(a), this.find(b)];
    if (one < two) this.above.set(two, one);
    else if (two < one) this.above.set(one, two);
  }
}
