/** Keeps so many of the latest used; what is asked for again is given as it was made. */
export class Recent<T> {
  private kept = new Map<string, T>();
  constructor(private most: number) {}

  get(name: string): T | undefined {
    const found = this.kept.get(name);
    if (found !== undefined) this.put(name, found);
    return found;
  }

  put(name: string, made: T): T {
    this.kept.delete(name);
    this.kept.set(name, made);
    for (const oldest of this.kept.keys()) {
      if (this.kept.size <= this.most) break;
      this.kept.delete(oldest);
    }
    return made;
  }
}
